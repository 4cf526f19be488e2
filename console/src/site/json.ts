/** JSON in lines, without a change to any value: numbers keep every digit, which reading them would not. What is no JSON comes back as it is. */
export function inLines(text: string): string {
  const tokens = text.match(/"(?:[^"\\]|\\.)*"|[{}[\],:]|[^\s{}[\],:"]+/g);
  if (tokens === null || !isJson(text)) {
    return text;
  }
  const out: string[] = [];
  let depth = 0;
  const line = () => out.push("\n", "  ".repeat(depth));
  tokens.forEach((token, i) => {
    const next = tokens[i + 1];
    if (token === "{" || token === "[") {
      out.push(token);
      depth++;
      if (next !== "}" && next !== "]") {
        line();
      }
    } else if (token === "}" || token === "]") {
      depth--;
      if (tokens[i - 1] !== "{" && tokens[i - 1] !== "[") {
        line();
      }
      out.push(token);
    } else if (token === ",") {
      out.push(token);
      line();
    } else {
      out.push(token === ":" ? ": " : token);
    }
  });
  return out.join("");
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
