import { Button, Dropdown } from "antd";
import type { Operation } from "../api/http";
import { allRowsAddress, inFormat } from "./address";

interface Props {
  operation: Operation;
  /** What was called, without the service's own address. */
  address: string;
}

/** Saves what was called in another format: the page that is shown, or every row. */
export function DownloadMenu({ operation, address }: Props) {
  const { formats, all } = operation.offers;
  if (formats.length === 0) {
    return null;
  }
  const item = (key: string, to: string, label: string) => ({
    key,
    label: (
      <a href={to} download>
        {label}
      </a>
    ),
  });
  const items = [
    ...formats.map((format) => item(format, inFormat(address, format), `This page as ${named(format)}`)),
    ...(all ? formats.map((format) => item(`all ${format}`, allRowsAddress(operation, address, format), `All rows as ${named(format)}`)) : []),
  ];
  return (
    <Dropdown menu={{ items }} trigger={["click"]}>
      <Button size="small">Download</Button>
    </Dropdown>
  );
}

function named(format: string): string {
  return format === "ndjson" ? "lines of JSON" : format === "xlsx" ? "spreadsheet" : format.toUpperCase();
}
