import { Form, Input, Modal, Select } from "antd";
import { type MethodKey, methods } from "./routes";

interface Values {
  method: MethodKey;
  route: string;
  answer: string;
}

interface Props {
  title: string;
  initial: Partial<Values>;
  /** Whether what it answers is asked for; a copy answers as its original does. */
  asksAnswer: boolean;
  objection: (method: MethodKey, route: string) => string | undefined;
  done: (values: Values) => void;
  cancel: () => void;
}

/** Asks for the method and the path of an operation that is to be. */
export function OperationDialog({ title, initial, asksAnswer, objection, done, cancel }: Props) {
  const [form] = Form.useForm<Values>();
  return (
    <Modal open title={title} okText="Add" onOk={form.submit} onCancel={cancel}>
      <Form<Values> form={form} name="operation" layout="vertical" requiredMark={false} initialValues={{ method: "get", answer: "rows", ...initial }} onFinish={done}>
        <Form.Item label="Method" name="method">
          <Select options={methods.map((one) => ({ value: one, label: one.toUpperCase() }))} />
        </Form.Item>
        <Form.Item
          label="Path"
          name="route"
          dependencies={["method"]}
          extra="Such as /berths or /berths/{berthId}"
          rules={[
            {
              validator: async (_, route: string | undefined) => {
                const why = objection(form.getFieldValue("method") as MethodKey, (route ?? "").trim());
                if (why !== undefined) {
                  throw new Error(why);
                }
              },
            },
          ]}
        >
          <Input autoFocus className="type" />
        </Form.Item>
        {asksAnswer && (
          <Form.Item label="Answer" name="answer">
            <Select
              options={[
                { value: "rows", label: "rows: a collection in pages" },
                { value: "row", label: "row: one object" },
                { value: "value", label: "value: one field" },
                { value: "nothing", label: "nothing: no content" },
                { value: "file", label: "file: bytes" },
              ]}
            />
          </Form.Item>
        )}
      </Form>
    </Modal>
  );
}
