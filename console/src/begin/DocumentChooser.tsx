import { Alert, Button, Input, Segmented, Space, Upload } from "antd";
import { useState } from "react";
import type { Contents, ReadDocument } from "../api/http";
import type { ChoiceEvent } from "./choices";
import { type DocumentWish, kindOf, longestDocument, pathOf } from "./documents";
import { MatchTable } from "./MatchTable";

interface Props {
  contents: Contents;
  document: DocumentWish;
  read: ReadDocument | undefined;
  dispatch: (event: ChoiceEvent) => void;
}

/** What others wrote down: an OpenAPI document or a sample of rows, from a file or pasted, and what its operations mean. */
export function DocumentChooser({ contents, document, read, dispatch }: Props) {
  const [trouble, setTrouble] = useState("");
  const take = (text: string, path?: string) => {
    setTrouble(text.length > longestDocument ? `It has ${text.length} characters, and ${longestDocument} are read at most; leave out what is not needed.` : "");
    if (text.length <= longestDocument) {
      dispatch({ event: "document", wish: { text, kind: kindOf(text), ...(path === undefined ? {} : { path }) } });
    }
  };
  return (
    <div className="stack">
      <Space wrap>
        <Upload
          accept=".json,.yaml,.yml,application/json,application/yaml"
          maxCount={1}
          showUploadList={false}
          beforeUpload={(file) => {
            void file.text().then((text) => take(text, pathOf(file.name)));
            return false;
          }}
        >
          <Button>Open a file</Button>
        </Upload>
        <Segmented<DocumentWish["kind"]>
          value={document.kind}
          options={[
            { value: "openapi", label: "OpenAPI document" },
            { value: "sample", label: "Sample of rows" },
          ]}
          onChange={(kind) => dispatch({ event: "document", wish: { kind } })}
        />
      </Space>
      {trouble !== "" && <Alert type="error" showIcon title={trouble} />}
      <Input.TextArea
        className="type"
        aria-label="Document"
        autoSize={{ minRows: 4, maxRows: 7 }}
        placeholder={document.kind === "sample" ? '[{ "id": 1, "berthNo": "A12" }]' : "openapi: 3.1.0"}
        value={document.text.length > 200_000 ? `${document.text.slice(0, 200_000)}\n...` : document.text}
        readOnly={document.text.length > 200_000}
        onChange={({ target }) => take(target.value)}
      />
      {document.kind === "sample" && (
        <Input
          className="type"
          addonBefore="Path"
          aria-label="Path of the rows"
          value={document.path}
          onChange={({ target }) => dispatch({ event: "document", wish: { path: target.value } })}
        />
      )}
      {read !== undefined && <MatchTable read={read} matches={document.matches} relations={contents.relations} dispatch={dispatch} />}
    </div>
  );
}
