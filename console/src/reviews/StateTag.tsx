import { Tag } from "antd";
import type { Review } from "../api/http";

const colours: Record<Review["state"], string> = {
  open: "warning",
  approved: "processing",
  declined: "error",
  withdrawn: "default",
  published: "default",
};

const labels: Record<Review["state"], string> = {
  open: "waits",
  approved: "approved",
  declined: "declined",
  withdrawn: "taken back",
  published: "published",
};

/** How far a review is. */
export function StateTag({ state }: Pick<Review, "state">) {
  return <Tag color={colours[state]}>{labels[state]}</Tag>;
}
