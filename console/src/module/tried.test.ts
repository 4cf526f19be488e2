import { expect, it } from "vitest";
import type { TriedParameter } from "./routes";
import { curlOf } from "./tried";

const parameter = (bind: string, source: string, more: Partial<TriedParameter> = {}): TriedParameter => ({
  bind,
  name: bind,
  pointer: undefined,
  in: source,
  type: "string",
  required: false,
  example: "",
  about: "",
  choices: [],
  ...more,
});

it("writes the line that calls an operation as its text describes it", () => {
  const parameters = [
    parameter("id", "path"),
    parameter("since", "query", { name: "from day" }),
    parameter("note", "body"),
    parameter("length", "body", { pointer: "/vessel/length_m", type: "number" }),
    parameter("agent", "header", { name: "X-Agent" }),
    parameter("who", "caller", { name: "name" }),
  ];
  const values = { id: "7/a", since: "2031-05-01", note: "it's late", length: "12.5", agent: "quay", who: "nobody" };
  expect(curlOf("http://quay.marrowby.example", "/api/quays/v1", "patch", "/quays/{id}", parameters, values)).toBe(
    `curl -X PATCH -H 'X-Agent: quay' -H 'Content-Type: application/json' -d '{"note":"it'\\''s late","vessel":{"length_m":12.5}}' ` +
      `'http://quay.marrowby.example/api/quays/v1/quays/7%2Fa?from%20day=2031-05-01'`,
  );
});
