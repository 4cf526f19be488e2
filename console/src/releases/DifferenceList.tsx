import { Empty, Tag } from "antd";
import type { Difference } from "../api/http";
import { MethodPath } from "../parts/MethodPath";
import { byOperation, effectColour, effectMeaning, effects } from "./effects";

/** What callers of the earlier release meet in the later one, the gravest first. */
export function DifferenceList({ differences }: { differences: Difference[] }) {
  if (differences.length === 0) {
    return <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Both promise callers the same." />;
  }
  return (
    <div className="differences">
      {effects
        .filter((effect) => differences.some((one) => one.effect === effect))
        .map((effect) => (
          <section key={effect} aria-label={effect}>
            <div>
              <Tag color={effectColour[effect]}>{effect}</Tag>
              <span className="quiet">{effectMeaning[effect]}</span>
            </div>
            <dl>
              {byOperation(differences, effect).map(([operation, all]) => (
                <div key={operation}>
                  <dt>{operation === "" ? "The module" : <Operation label={operation} />}</dt>
                  {all.map((difference) => (
                    <dd key={difference.kind + difference.words} title={difference.kind}>
                      {difference.words}
                    </dd>
                  ))}
                </div>
              ))}
            </dl>
          </section>
        ))}
    </div>
  );
}

function Operation({ label }: { label: string }) {
  const space = label.indexOf(" ");
  return <MethodPath method={label.slice(0, space)} path={label.slice(space + 1)} />;
}
