import { Button, Flex, Form, Input, Space, Table, Typography } from "antd";
import { useCallback, useState } from "react";
import { type AuditEntry, type AuditSearch, auditExport, readAudit } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";

/** Who did what: searched, unfolded to the states before and after, and taken away as a file. */
export function AuditTab() {
  const [search, setSearch] = useState<AuditSearch>({});
  const [older, setOlder] = useState<number>();
  const ask = useCallback(() => readAudit(search, older), [search, older]);
  const { remote, again } = useRemote(ask);
  const find = (wanted: AuditSearch) => {
    setOlder(undefined);
    setSearch(wanted);
  };
  return (
    <>
      <Flex justify="space-between" align="start" wrap gap="small" className="gap-below">
        <Form layout="inline" onFinish={find}>
          <Form.Item name="who">
            <Input aria-label="Who" placeholder="who" allowClear style={{ width: 140 }} />
          </Form.Item>
          <Form.Item name="action">
            <Input aria-label="Action" placeholder="action" allowClear style={{ width: 140 }} />
          </Form.Item>
          <Form.Item name="text">
            <Input aria-label="Text" placeholder="subject, detail or state" allowClear style={{ width: 200 }} />
          </Form.Item>
          <Button htmlType="submit">Find</Button>
        </Form>
        <Space>
          <Button href={auditExport(search, "csv")}>CSV</Button>
          <Button href={auditExport(search, "ndjson")}>JSON lines</Button>
        </Space>
      </Flex>
      <RemoteView remote={remote} again={again}>
        {({ entries, more }) => (
          <>
            <Table<AuditEntry>
              size="small"
              rowKey="entry"
              pagination={false}
              dataSource={entries}
              locale={{ emptyText: "Nothing of that kind was noted." }}
              expandable={{
                rowExpandable: ({ before, after }) => before !== undefined || after !== undefined,
                expandedRowRender: (entry) => <States entry={entry} />,
              }}
              columns={[
                { title: "When", render: (_, { at }) => <span className="cell">{when(at)}</span> },
                {
                  title: "Who",
                  render: (_, { who, address }) => <span className="cell">{address === undefined ? who : `${who}, ${address}`}</span>,
                },
                { title: "Action", render: (_, { action }) => <span className="cell">{action}</span> },
                { title: "Subject", dataIndex: "subject" },
                { title: "Detail", dataIndex: "detail" },
              ]}
            />
            <Flex justify="space-between" className="gap-above">
              <Button disabled={older === undefined} onClick={() => setOlder(undefined)}>
                Newest
              </Button>
              <Button disabled={!more} onClick={() => setOlder(entries.at(-1)?.entry)}>
                Older
              </Button>
            </Flex>
          </>
        )}
      </RemoteView>
    </>
  );
}

function States({ entry: { before, after } }: { entry: AuditEntry }) {
  return (
    <>
      <State title="Before" state={before} />
      <State title="After" state={after} />
    </>
  );
}

function State({ title, state }: { title: string; state: string | undefined }) {
  return (
    <div>
      <Typography.Text type="secondary">{title} </Typography.Text>
      {state === undefined ? "–" : <Typography.Text code>{state}</Typography.Text>}
    </div>
  );
}
