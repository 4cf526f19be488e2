import { Alert, Button, Input, Popconfirm, Progress, Space, Table, Tag, Upload } from "antd";
import { useState } from "react";
import { loadSheet, lookAtSheet, type Sheet, type SheetOutcome, type SheetWish, tableOf } from "../api/sheets";
import { useDeed } from "../api/useDeed";

interface Props {
  source: string;
  /** A table that is there now, with the rows of a sheet. */
  onTable: (table: string) => void;
}

/** A CSV file or a workbook: what its columns are, the table it becomes, and its rows put there. */
export function SheetChooser({ source, onTable }: Props) {
  const [file, setFile] = useState<File>();
  const [wish, setWish] = useState<SheetWish>({ source, table: "", separator: "", encoding: "", sheet: "" });
  const [look, setLook] = useState<Sheet>();
  const [loaded, setLoaded] = useState<number>();
  const [outcome, setOutcome] = useState<SheetOutcome>();
  const { error, busy, run } = useDeed();
  const read = (chosen: File, how: SheetWish) => {
    setFile(chosen);
    setWish(how);
    setOutcome(undefined);
    setLook(undefined);
    void run(async () => setLook(await lookAtSheet(how, chosen)));
  };
  const load = (chosen: File, rows: Sheet) =>
    run(async () => {
      setLoaded(0);
      try {
        const end = await loadSheet(wish, chosen, setLoaded);
        setOutcome(end);
        if (end.kept === true) {
          onTable(rows.table);
        }
      } finally {
        setLoaded(undefined);
      }
    });
  const part = (key: keyof SheetWish, label: string) => (
    <Input
      key={key}
      size="small"
      className="type"
      addonBefore={label}
      aria-label={`${label} of the sheet`}
      placeholder={key === "table" ? "" : "found out"}
      value={wish[key]}
      onChange={({ target }) => setWish({ ...wish, [key]: target.value })}
      onPressEnter={() => file !== undefined && read(file, wish)}
    />
  );
  return (
    <div className="stack">
      <Space wrap>
        <Upload
          accept=".csv,.tsv,.txt,.xlsx"
          maxCount={1}
          showUploadList={false}
          beforeUpload={(chosen) => {
            read(chosen, { ...wish, table: tableOf(chosen.name) });
            return false;
          }}
        >
          <Button loading={busy && loaded === undefined}>Open a CSV file or workbook</Button>
        </Upload>
        {file !== undefined && (
          <Button disabled={busy} onClick={() => read(file, wish)}>
            Read it again
          </Button>
        )}
      </Space>
      {error}
      {file !== undefined && (
        <div className="sheet-wish">{[part("table", "Table"), part("separator", "Separator"), part("encoding", "Encoding"), part("sheet", "Sheet")]}</div>
      )}
      {look !== undefined && file !== undefined && (
        <>
          {look.rows > 0 && <SheetColumns look={look} />}
          <BadRows of={look} title="These rows cannot be taken. Mend them and open the file again." />
          {!look.there && look.rows > 0 && <pre className="sql">{look.createTable}</pre>}
          {look.bad.length === 0 && outcome?.kept !== true && (
            <Popconfirm
              title={look.there ? `Put ${look.rows} rows into ${look.table}?` : `Make the table ${look.table} in ${source}, and put ${look.rows} rows into it?`}
              okText="Yes"
              cancelText="No"
              onConfirm={() => void load(file, look)}
            >
              <Button type="primary" loading={busy}>
                {look.there ? `Load ${look.rows} rows` : `Make the table and load ${look.rows} rows`}
              </Button>
            </Popconfirm>
          )}
          {loaded !== undefined && <Progress percent={Math.floor((100 * loaded) / Math.max(1, look.rows))} aria-label="Rows loaded" />}
          {outcome?.kept === true && <Alert type="success" showIcon title={`${outcome.rows} rows are in ${look.table}; it is chosen among the tables.`} />}
          {outcome?.kept === false && (
            <>
              <Alert type="error" showIcon title={outcome.trouble ?? "Some rows were refused, so that none was kept."} />
              <BadRows of={outcome} title="The database refused these rows." />
            </>
          )}
        </>
      )}
    </div>
  );
}

function SheetColumns({ look }: { look: Sheet }) {
  return (
    <>
      <Table<Sheet["columns"][number]>
        size="small"
        rowKey="name"
        pagination={false}
        scroll={{ y: 240 }}
        dataSource={look.columns}
        columns={[
          { title: "Column", dataIndex: "name", render: (name: string) => <code>{name}</code> },
          {
            title: "Type",
            render: (_, { type, nullable }) => (
              <>
                <code>{type}</code> {nullable && <Tag>may be empty</Tag>}
              </>
            ),
          },
          { title: "Examples", ellipsis: true, render: (_, { examples }) => examples.join(", ") },
        ]}
      />
      <span className="quiet">
        {look.rows} rows, {look.key === undefined ? "numbered because no column tells them apart" : `told apart by ${look.key}`}
      </span>
      {look.columns.some(({ notes }) => notes.length > 0) && (
        <ul className="notes">
          {look.columns.flatMap(({ name, notes }) =>
            notes.map((note) => (
              <li key={name + note}>
                <b>{name}</b> {note}
              </li>
            )),
          )}
        </ul>
      )}
    </>
  );
}

function BadRows({ of: { bad = [], moreBad = 0 }, title }: { of: Pick<SheetOutcome, "bad" | "moreBad">; title: string }) {
  return bad.length === 0 ? null : (
    <Alert
      type="error"
      title={title}
      description={
        <ul className="notes">
          {bad.map(({ line, reason }) => (
            <li key={line}>
              <b>line {line}</b> {reason}
            </li>
          ))}
          {moreBad > 0 && <li>and {moreBad} more</li>}
        </ul>
      }
    />
  );
}
