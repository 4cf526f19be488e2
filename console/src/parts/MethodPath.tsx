import { theme } from "antd";

interface Props {
  method: string;
  path: string;
}

/** A method and a path in the type of code, placeholders set apart by colour. */
export function MethodPath({ method, path }: Props) {
  const { token } = theme.useToken();
  return (
    <span className="method-path" style={{ fontFamily: token.fontFamilyCode }}>
      <b style={{ color: token.colorTextSecondary }}>{method}</b>{" "}
      {path.split(/(\{\w+\})/).map((part, index) =>
        part.startsWith("{") ? (
          <span key={index} style={{ color: token.colorWarning }}>
            {part}
          </span>
        ) : (
          part
        ),
      )}
    </span>
  );
}
