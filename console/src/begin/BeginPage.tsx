import { Button, Card, Empty, Form, Input, Select, Typography } from "antd";
import { useCallback, useReducer } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { readContents, readSources, saveDraft, type ReadDocument, type Source } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { SourceCard } from "../sources/SourceCard";
import { choiceReducer, type Choices, type ChoiceEvent, moduleName, moduleTitle, nothingChosen, requestFor } from "./choices";
import { FirstTextPreview, useFirstText } from "./FirstTextPreview";
import { ReachInput } from "./ReachInput";
import { StartChooser } from "./StartChooser";

/** From a database to a module's first text: source, what there is, who may call, and a look at the text before it is kept. */
export function BeginPage() {
  const { remote, again } = useRemote(readSources);
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Begin a module</Typography.Title>
        <span className="quiet">Nothing is kept until you say so, and nothing is published here.</span>
      </div>
      <RemoteView remote={remote} again={again}>
        {({ sources }) =>
          sources.length === 0 ? (
            <Empty description="The service has no sources yet; define one in the workspace.yaml it reads, and type ./tidy source reload." />
          ) : (
            <Choosing sources={sources} />
          )
        }
      </RemoteView>
    </>
  );
}

function Choosing({ sources }: { sources: Source[] }) {
  const [search] = useSearchParams();
  const wanted = search.get("source");
  const first = sources.find(({ name }) => name === wanted) ?? sources[0];
  const [choices, dispatch] = useReducer(choiceReducer, nothingChosen(first?.name ?? ""));
  const source = sources.find((one) => one.name === choices.source);
  const preview = useFirstText(requestFor(choices));
  const { error, busy, run } = useDeed();
  const navigate = useNavigate();
  const name = moduleName(choices);
  const { made } = preview;
  const keep = () =>
    made !== undefined &&
    run(
      () => saveDraft(name, 1, made.text, undefined),
      () => void navigate(`/drafts/${encodeURIComponent(name)}/v1/edit`),
    );
  return (
    <div className="columns even">
      <div className="stack">
        <Card size="small" title="1. Where the data is">
          <Select
            className="gap-below"
            aria-label="Source"
            value={choices.source}
            options={sources.map((one) => ({ value: one.name, label: one.name }))}
            onChange={(chosen) => dispatch({ event: "source", source: chosen })}
            style={{ minWidth: 200 }}
          />
          {source !== undefined && <SourceCard key={source.name} source={source} />}
        </Card>
        <Card size="small" title="2. What it is made from, and what callers can do">
          <Start key={choices.source} choices={choices} read={made?.document} dispatch={dispatch} />
        </Card>
        <Card size="small" title="3. Who may call it">
          <ReachInput label="Read" reach={choices.reads} onChange={(reach) => dispatch({ event: "reach", of: "reads", reach })} />
          <ReachInput label="Change" reach={choices.changes} onChange={(reach) => dispatch({ event: "reach", of: "changes", reach })} />
        </Card>
        <Card size="small" title="4. What it is called">
          {error}
          <Form layout="vertical" onFinish={keep}>
            <Form.Item label="Name, as in /api/name/v1" htmlFor="begin-name">
              <Input id="begin-name" value={name} onChange={({ target }) => dispatch({ event: "named", module: target.value })} />
            </Form.Item>
            <Form.Item label="Title" htmlFor="begin-title">
              <Input id="begin-title" value={moduleTitle(choices)} onChange={({ target }) => dispatch({ event: "named", title: target.value })} />
            </Form.Item>
            <Button type="primary" htmlType="submit" loading={busy} disabled={made === undefined || preview.isLate}>
              Keep it as a draft
            </Button>
          </Form>
        </Card>
      </div>
      <div className="preview">
        <FirstTextPreview {...preview} />
      </div>
    </div>
  );
}

function Start({ choices, read, dispatch }: { choices: Choices; read: ReadDocument | undefined; dispatch: (event: ChoiceEvent) => void }) {
  const { remote, again } = useRemote(useCallback(() => readContents(choices.source), [choices.source]));
  return (
    <RemoteView remote={remote} again={again}>
      {(contents) => <StartChooser contents={contents} choices={choices} read={read} dispatch={dispatch} refresh={again} />}
    </RemoteView>
  );
}
