import { App, Form, Input } from "antd";
import { EditDialog } from "../access/EditDialog";
import { announce } from "../api/http";

/** Tells those who call a module something. */
export function AnnounceDialog({ module, close }: { module: string; close: () => void }) {
  const { message } = App.useApp();
  return (
    <EditDialog<{ title: string; words: string }>
      title={`Tell those who call ${module}`}
      action="Announce"
      initial={{}}
      save={async ({ title, words }) => {
        const { teams } = await announce({ module, title, words });
        void message.success(teams.length === 0 ? "It stands in the news." : `It stands in the news; told to ${teams.join(", ")}.`);
      }}
      cancel={close}
      done={close}
    >
      <Form.Item label="Title" name="title" rules={[{ required: true, message: "Say it in one line." }]}>
        <Input autoFocus maxLength={200} />
      </Form.Item>
      <Form.Item
        label="Text"
        name="words"
        extra="It stands in the module's news. Teams that hold privileges of the module get it by mail and webhook."
        rules={[{ required: true, message: "Say what it is about." }]}
      >
        <Input.TextArea rows={4} maxLength={4000} />
      </Form.Item>
    </EditDialog>
  );
}
