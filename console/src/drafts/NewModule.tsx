import { Button, Form, Input, Select } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { EditDialog } from "../access/EditDialog";
import { readSources, saveDraft } from "../api/http";
import { useRemote } from "../api/useRemote";
import { lines } from "../moduletext/words";

interface Values {
  name: string;
  version: string;
  title: string;
  source: string;
}

/** Begins the draft of a module that nobody has. */
export function NewModule() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>New module</Button>
      {open && <NewModuleDialog cancel={() => setOpen(false)} />}
    </>
  );
}

function NewModuleDialog({ cancel }: { cancel: () => void }) {
  const { remote } = useRemote(readSources);
  const sources = remote.state === "loaded" ? remote.value.sources : [];
  const [only] = sources;
  const navigate = useNavigate();
  const save = async ({ name, version, title, source }: Values) => {
    const major = Number(version.split(".")[0]);
    const text = Object.entries({ module: name, version, title, source }).flatMap(([key, value]) => lines(key, value, [key], 0));
    await saveDraft(name, major, { folder: `modules/${name}/v${major}`, files: { "module.yaml": [...text, "routes: {}", ""].join("\n") } }, undefined);
    await navigate(`/drafts/${encodeURIComponent(name)}/v${major}/edit`);
  };
  return (
    <EditDialog<Values> title="New module" initial={{ version: "1.0.0", ...(only !== undefined && sources.length === 1 ? { source: only.name } : {}) }} save={save} done={() => undefined} cancel={cancel} key={sources.length}>
      <Form.Item
        label="Name"
        name="name"
        extra="It is part of the address: /api/name/v1"
        rules={[{ required: true, pattern: /^[a-z][a-z0-9-]{0,62}$/, message: "Lower-case letters, digits and hyphens, as in 'moorings'." }]}
      >
        <Input autoFocus />
      </Form.Item>
      <Form.Item label="Version" name="version" rules={[{ required: true, pattern: /^\d{1,4}\.\d{1,9}\.\d{1,9}$/, message: "Three numbers, as in '1.0.0'." }]}>
        <Input />
      </Form.Item>
      <Form.Item label="Title" name="title" rules={[{ required: true, whitespace: true, message: "The heading of its reference." }]}>
        <Input />
      </Form.Item>
      <Form.Item label="Source" name="source" rules={[{ required: true, message: "The database its statements run against." }]}>
        <Select options={sources.map(({ name }) => ({ value: name, label: name }))} />
      </Form.Item>
    </EditDialog>
  );
}
