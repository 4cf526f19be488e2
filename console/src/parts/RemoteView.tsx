import { Alert, Button, Skeleton } from "antd";
import type { ReactNode } from "react";
import { Navigate } from "react-router";
import type { Remote } from "../api/useRemote";

interface Props<T> {
  remote: Remote<T>;
  again: () => void;
  children: (value: T) => ReactNode;
}

/** Shows what was asked for, or that it is on its way, or why it is not there; without a session it leads to the sign-in. */
export function RemoteView<T>({ remote, again, children }: Props<T>) {
  switch (remote.state) {
    case "loading":
      return <Skeleton active paragraph={{ rows: 6 }} aria-label="Loading" />;
    case "loaded":
      return children(remote.value);
    case "failed":
      return remote.error.status === 401 ? (
        <Navigate to="/sign-in" replace />
      ) : (
        <Alert
          type="error"
          showIcon
          title="This could not be loaded"
          description={remote.error.message}
          action={<Button onClick={again}>Try again</Button>}
        />
      );
  }
}
