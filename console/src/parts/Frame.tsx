import { MoonOutlined, SunOutlined } from "@ant-design/icons";
import { Badge, Button, theme } from "antd";
import { type ReactNode, useEffect, useState } from "react";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import { readAccount, signOut } from "../api/http";
import type { Appearance } from "../theme/useAppearance";
import { Mark } from "./Mark";

interface Props {
  appearance: Appearance;
  onToggle: () => void;
  children: ReactNode;
}

const pages = [
  { to: "/modules", label: "Modules" },
  { to: "/drafts", label: "Drafts" },
  { to: "/reviews", label: "Reviews" },
  { to: "/sources", label: "Sources" },
  { to: "/workbench", label: "Workbench" },
  { to: "/access", label: "Access" },
  { to: "/requests", label: "Requests" },
  { to: "/nodes", label: "Nodes" },
];

/** How many requests wait for an answer of whoever is signed in, as of when they came to this page. */
function useWaiting(pathname: string, signedIn: boolean): number {
  const [waiting, setWaiting] = useState(0);
  useEffect(() => {
    if (signedIn) {
      readAccount().then(
        (account) => setWaiting(account.waitingRequests ?? 0),
        // the page itself tells what is wrong
        () => undefined,
      );
    }
  }, [pathname, signedIn]);
  return waiting;
}

/** The head every page has, and the room below it. */
export function Frame({ appearance, onToggle, children }: Props) {
  const { token } = theme.useToken();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const signedIn = pathname !== "/sign-in";
  const waiting = useWaiting(pathname, signedIn);
  const other = appearance === "dark" ? "light" : "dark";
  const leave = () => signOut().finally(() => navigate("/sign-in"));
  return (
    <div className="frame" style={{ background: token.colorBgLayout, color: token.colorText }}>
      <header style={{ background: token.colorBgContainer, borderColor: token.colorBorderSecondary }}>
        <Link to="/modules" className="wordmark" style={{ color: token.colorText }}>
          <Mark /> Tidy Bridge
        </Link>
        {signedIn && (
          <nav aria-label="Pages" className="pages">
            {pages.map(({ to, label }) => (
              <NavLink key={to} to={to} style={{ color: token.colorText, borderColor: token.colorPrimary }}>
                {label} {to === "/requests" && <Badge size="small" count={waiting} title={`${waiting} wait for an answer`} />}
              </NavLink>
            ))}
          </nav>
        )}
        <nav aria-label="Account and appearance">
          <Button
            type="text"
            aria-label={`Use the ${other} appearance`}
            icon={appearance === "dark" ? <SunOutlined /> : <MoonOutlined />}
            onClick={onToggle}
          />
          {signedIn && (
            <Link to="/account" className="account" style={{ color: token.colorText }}>
              Account
            </Link>
          )}
          {signedIn && (
            <Button type="text" onClick={leave}>
              Sign out
            </Button>
          )}
        </nav>
      </header>
      <main>{children}</main>
    </div>
  );
}
