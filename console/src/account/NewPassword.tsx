import { Button, Form, Input } from "antd";
import type { ReactNode } from "react";

/** What is typed: the new password, and whatever the fields before it ask for. */
export interface Chosen {
  chosen: string;
  password?: string;
}

interface Props {
  label: string;
  busy?: boolean;
  choose: (typed: Chosen) => void;
  /** What stands before the two fields. */
  children?: ReactNode;
}

/** A new password, typed twice. */
export function NewPassword({ label, busy = false, choose, children }: Props) {
  return (
    <Form name="new-password" layout="vertical" onFinish={choose} requiredMark={false}>
      {children}
      <Form.Item
        label="New password"
        name="chosen"
        extra="10 characters or more. Several words that nobody connects with you are good."
        rules={[{ required: true, message: "Choose a password." }]}
      >
        <Input.Password autoComplete="new-password" maxLength={200} />
      </Form.Item>
      <Form.Item
        label="Once more"
        name="again"
        dependencies={["chosen"]}
        rules={[
          { required: true, message: "Type it a second time." },
          ({ getFieldValue }) => ({
            validator: (_, again: string) =>
              again === undefined || again === getFieldValue("chosen")
                ? Promise.resolve()
                : Promise.reject(new Error("The two are not the same.")),
          }),
        ]}
      >
        <Input.Password autoComplete="new-password" maxLength={200} />
      </Form.Item>
      <Button type="primary" htmlType="submit" loading={busy}>
        {label}
      </Button>
    </Form>
  );
}
