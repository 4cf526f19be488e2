import { Button, Card, Flex, Segmented, Typography } from "antd";
import { useMemo } from "react";
import type { Contents, Finding, Look } from "../api/http";
import type { Appearance } from "../theme/useAppearance";
import { diagnostics } from "../workbench/diagnostics";
import SqlEditor from "../workbench/SqlEditor";
import type { StatementFile } from "./routes";

interface Props {
  statements: readonly StatementFile[];
  chosen: StatementFile;
  onChoose: (file: string) => void;
  sql: string | undefined;
  folder: string;
  /** The other operations that use the same file. */
  others: readonly string[];
  /** Bind parameters that the text does not describe yet. */
  undescribed: Look["binds"];
  onDescribe: () => void;
  findings: Finding[];
  look: Look | undefined;
  contents: Contents | undefined;
  appearance: Appearance;
  shown: { at: number } | undefined;
  onChange: (sql: string) => void;
  onRun: () => void;
}

/** The statement of an operation, or one of its steps. */
export function StatementCard(props: Props) {
  const { statements, chosen, onChoose, sql, folder, others, undescribed, onDescribe, findings, look, contents, appearance, shown, onChange, onRun } = props;
  const file = `${folder}/${chosen.file}`;
  const problems = useMemo(() => diagnostics(sql ?? "", file, findings, look), [sql, file, findings, look]);
  return (
    <Card
      size="small"
      title={
        statements.length > 1 ? (
          <Segmented
            size="small"
            value={chosen.file}
            options={statements.map(({ step, file: one }) => ({ value: one, label: step }))}
            onChange={(value) => onChoose(value)}
          />
        ) : (
          "Statement"
        )
      }
      extra={<Typography.Text code>{chosen.file}</Typography.Text>}
    >
      {sql === undefined ? (
        <Flex gap="small" align="center">
          <Typography.Text>There is no file {chosen.file}.</Typography.Text>
          <Button size="small" onClick={() => onChange("select 1 as id\n")}>
            Make it
          </Button>
        </Flex>
      ) : (
        <SqlEditor
          key={chosen.file}
          value={sql}
          contents={contents}
          problems={problems}
          appearance={appearance}
          ownHistory={false}
          shown={shown}
          onChange={onChange}
          onRun={onRun}
        />
      )}
      {others.length > 0 && <p className="quiet note">Also used by {others.join(", ")}.</p>}
      {undescribed.length > 0 && (
        <Flex gap="small" align="center" wrap className="note">
          <span className="quiet">Not described yet: {undescribed.map(({ name }) => `:${name}`).join(", ")}</span>
          <Button size="small" onClick={onDescribe}>
            Describe {undescribed.length === 1 ? "it" : "them"}
          </Button>
        </Flex>
      )}
    </Card>
  );
}
