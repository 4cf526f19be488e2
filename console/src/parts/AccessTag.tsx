import { Tag } from "antd";
import type { Module } from "../api/http";

/** Whether callers reach a module: open to everybody, closed, or not served at all. */
export function AccessTag({ module }: { module: Module }) {
  if (!module.served) {
    return <Tag color="error">not served</Tag>;
  }
  return module.open ? <Tag color="warning">open to everybody</Tag> : <Tag>closed</Tag>;
}
