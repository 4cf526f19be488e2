import { Modal, Typography } from "antd";
import type { AnsweredRequest } from "../api/http";
import { stateWords } from "./requestWords";

/** How an answer reaches whoever asked. */
export function AnsweredDialog({ answered, close }: { answered: AnsweredRequest; close: () => void }) {
  const { request, link, mailed } = answered;
  return (
    <Modal open title={`The request of ${request.title}: ${stateWords(request)}`} footer={null} onCancel={close}>
      {link !== undefined && (
        <>
          <Typography.Paragraph>
            With this link the first of its people joins the team. It works once, for seven days, and is shown only now:
          </Typography.Paragraph>
          <Typography.Paragraph>
            <Typography.Text code copyable>
              {link}
            </Typography.Text>
          </Typography.Paragraph>
        </>
      )}
      <Typography.Paragraph type="secondary">
        {mailed ? `${request.contact} is told by mail.` : `No mail server is set, so tell ${request.contact} yourself.`}
      </Typography.Paragraph>
    </Modal>
  );
}
