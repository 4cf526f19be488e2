import { Checkbox, Form, Input } from "antd";
import { EditDialog } from "../access/EditDialog";
import { type AccessRequest, type AnsweredRequest, answerRequest } from "../api/http";
import { afterDay, whatIsAsked } from "./requestWords";

interface Fields {
  privileges?: string[];
  team?: string;
  ends?: string;
  words?: string;
}

interface Props {
  request: AccessRequest;
  done: (answered: AnsweredRequest) => void;
  cancel: () => void;
}

/** Gives what is asked for, or a part of it, until a day. */
export function AllowDialog({ request, done, cancel }: Props) {
  let answered: AnsweredRequest | undefined;
  const save = async ({ privileges, team, ends, words }: Fields) => {
    const endsAt = afterDay(ends);
    answered = await answerRequest(request.id, {
      answer: "allow",
      ...(privileges === undefined ? {} : { privileges }),
      ...(team === undefined ? {} : { team }),
      ...(endsAt === undefined ? {} : { endsAt }),
      ...(words === undefined ? {} : { words }),
    });
  };
  return (
    <EditDialog<Fields>
      title={`${request.title} ${whatIsAsked(request)}`}
      action="Allow"
      initial={request.kind === "team" ? { team: request.proposedName ?? "" } : { privileges: request.privileges }}
      save={save}
      cancel={cancel}
      done={() => answered !== undefined && done(answered)}
    >
      {request.kind === "team" ? (
        <Form.Item
          label="The team's name"
          name="team"
          extra="It stands in lists and in the audit trail, such as harbour-apps."
          rules={[{ required: true, message: "Give it a name." }]}
        >
          <Input />
        </Form.Item>
      ) : (
        <>
          <Form.Item label={`What ${request.client ?? "it"} may then`} name="privileges" rules={[{ required: true, message: "Choose one, or refuse the request." }]}>
            <Checkbox.Group className="column" options={request.privileges} />
          </Form.Item>
          <Form.Item label="Last day, in UTC" name="ends" extra="It has no end unless you choose one.">
            <Input type="date" />
          </Form.Item>
        </>
      )}
      <Form.Item label="What to tell whoever asked" name="words">
        <Input.TextArea rows={3} maxLength={1000} />
      </Form.Item>
    </EditDialog>
  );
}
