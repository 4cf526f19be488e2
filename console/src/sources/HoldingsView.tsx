import { Button, Card, Empty, Input, Tag, Typography } from "antd";
import { useCallback, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { type Contents, readContents, refreshContents } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { type Holding, holdings, matching } from "./holdings";
import { RelationCard } from "./RelationCard";
import { RoutineCard } from "./RoutineCard";

/** What a source holds: a list that can be searched, and the chosen thing beside it. */
export function HoldingsView({ source }: { source: string }) {
  const [fresh, setFresh] = useState(false);
  const ask = useCallback(() => (fresh ? refreshContents(source) : readContents(source)), [source, fresh]);
  const { remote, again } = useRemote(ask);
  const refresh = () => (fresh ? again() : setFresh(true));
  return (
    <RemoteView remote={remote} again={again}>
      {(contents) => <Holdings source={source} contents={contents} refresh={refresh} />}
    </RemoteView>
  );
}

function Holdings({ source, contents, refresh }: { source: string; contents: Contents; refresh: () => void }) {
  const [search, setSearch] = useSearchParams();
  const [text, setText] = useState("");
  const all = useMemo(() => holdings(contents), [contents]);
  const found = matching(all, text);
  const name = search.get("object");
  const chosen = all.find((one) => one.name === name) ?? found[0];
  return (
    <div className="browse">
      <Card
        size="small"
        title={`Holds ${all.length} objects`}
        extra={
          <Button size="small" type="link" onClick={refresh} title={`Read at ${new Date(contents.readAt).toLocaleTimeString()}`}>
            Read again
          </Button>
        }
      >
        <Input
          allowClear
          aria-label="Find"
          placeholder="a name, a column, a comment"
          value={text}
          onChange={(change) => setText(change.target.value)}
        />
        {found.length === 0 ? (
          <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description={all.length === 0 ? "Its user sees nothing here." : "Nothing matches."} />
        ) : (
          <ul className="holdings">
            {found.map((one) => (
              <li key={`${one.kind} ${one.name}`}>
                <button
                  type="button"
                  aria-current={one === chosen ? "true" : undefined}
                  onClick={() => setSearch({ object: one.name })}
                >
                  <span>{one.name}</span>
                  <Tag variant="outlined">{one.kind}</Tag>
                  <Typography.Text type="secondary">{one.rows === undefined ? "" : one.rows.toLocaleString()}</Typography.Text>
                </button>
              </li>
            ))}
          </ul>
        )}
      </Card>
      {chosen !== undefined && <Chosen key={chosen.name} source={source} holding={chosen} />}
    </div>
  );
}

function Chosen({ source, holding }: { source: string; holding: Holding }) {
  return holding.relation !== undefined ? (
    <RelationCard source={source} relation={holding.relation} />
  ) : (
    <RoutineCard routine={holding.routine} />
  );
}
