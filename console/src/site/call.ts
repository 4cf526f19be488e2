/** What somebody typed in for one input. */
export interface Typed {
  name: string;
  place: string;
  /** True for a list whose items are sent one by one. */
  list: boolean;
  value: string;
}

/** The address of a call: placeholders filled, what is typed into the query appended; what is empty is left out. */
export function addressOf(template: string, inputs: readonly Typed[]): string {
  const value = (name: string) => inputs.find((input) => input.place === "path" && input.name === name)?.value ?? "";
  const path = template.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(value(name)));
  const query = inputs
    .filter((input) => input.place === "query" && input.value !== "")
    .flatMap((input) => items(input).map((item) => `${encodeURIComponent(input.name)}=${encodeURIComponent(item)}`));
  return query.length === 0 ? path : `${path}?${query.join("&")}`;
}

function items({ list, value }: Typed): string[] {
  return list ? value.split(",").map((item) => item.trim()) : [value];
}

/** The header fields of a call, with the credential if there is one. */
export function headersOf(inputs: readonly Typed[], credential: string, mediaType: string | undefined): Record<string, string> {
  const headers: Record<string, string> = {};
  for (const { name, place, value } of inputs) {
    if (place === "header" && value !== "") {
      headers[name] = value;
    }
  }
  if (credential !== "") {
    headers["Authorization"] = `Bearer ${credential}`;
  }
  if (mediaType !== undefined) {
    headers["Content-Type"] = mediaType;
  }
  return headers;
}
