import { Form, Input } from "antd";
import { EditDialog } from "../access/EditDialog";
import { type AccessRequest, type AnsweredRequest, answerRequest } from "../api/http";

interface Props {
  request: AccessRequest;
  done: (answered: AnsweredRequest) => void;
  cancel: () => void;
}

/** Refuses what is asked for, and says why. */
export function RefuseDialog({ request, done, cancel }: Props) {
  let answered: AnsweredRequest | undefined;
  return (
    <EditDialog<{ words: string }>
      title={`Refuse the request of ${request.title}`}
      action="Refuse"
      initial={{}}
      save={async ({ words }) => {
        answered = await answerRequest(request.id, { answer: "refuse", words });
      }}
      cancel={cancel}
      done={() => answered !== undefined && done(answered)}
    >
      <Form.Item label="Why" name="words" extra="Whoever asked reads it." rules={[{ required: true, message: "Say why." }]}>
        <Input.TextArea rows={3} maxLength={1000} autoFocus />
      </Form.Item>
    </EditDialog>
  );
}
