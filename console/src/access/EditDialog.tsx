import { Form, Modal } from "antd";
import type { ReactNode } from "react";
import { useDeed } from "../api/useDeed";

interface Props<T> {
  title: string;
  /** What the button says; "Save" unless given. */
  action?: string;
  initial: Partial<T>;
  save: (values: T) => Promise<unknown>;
  done: () => void;
  cancel: () => void;
  children: ReactNode;
}

/** A few fields over the page, saved together; what the service refuses is shown above them. */
export function EditDialog<T extends object>({ title, action = "Save", initial, save, done, cancel, children }: Props<T>) {
  const [form] = Form.useForm<T>();
  const { error, busy, run } = useDeed();
  return (
    <Modal open title={title} okText={action} confirmLoading={busy} onOk={form.submit} onCancel={cancel}>
      {error}
      <Form<T>
        form={form}
        name="edit"
        layout="vertical"
        requiredMark={false}
        initialValues={initial}
        onFinish={(values) => run(() => save(values), done)}
      >
        {children}
      </Form>
    </Modal>
  );
}
