import { theme } from "antd";

/** An arch over water. */
export function Mark() {
  const { token } = theme.useToken();
  return (
    <svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
      <g fill="none" strokeLinecap="round">
        <path d="M3 20C8 9 24 9 29 20" stroke={token.colorPrimary} strokeWidth="3" />
        <path d="M10 14.5v6M16 12v8.500M22 14.500v6" stroke={token.colorPrimary} strokeWidth="2" />
        <path
          d="M3 25c2.200-1.800 4.300-1.800 6.500 0s4.300 1.800 6.500 0 4.300-1.800 6.500 0 4.300 1.800 6.500 0"
          stroke={token.colorWarning}
          strokeWidth="2.200"
        />
      </g>
    </svg>
  );
}
