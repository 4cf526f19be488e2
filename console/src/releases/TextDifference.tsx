import { Tag } from "antd";
import type { FileDifference } from "../api/http";
import { type Line, paired } from "./paired";

/** The lines that differ, the earlier text at the left and the later one at the right. */
export function TextDifference({ files }: { files: FileDifference[] }) {
  return (
    <>
      {files.map((file) => (
        <section key={file.file} className="file-difference" aria-label={file.file}>
          <h3>
            {file.file} {file.state !== "changed" && <Tag>{file.state}</Tag>}
          </h3>
          {file.pieces.length === 0 && <p className="quiet">It is too long to be compared line by line.</p>}
          {file.pieces.map(({ lines }, index) => (
            <table key={index}>
              <tbody>
                {paired(lines).map((pair, row) => (
                  <tr key={row} className={pair.before === pair.now ? undefined : "differs"}>
                    <Side line={pair.before} number={pair.before?.before} mark="-" changed={pair.before !== pair.now} />
                    <Side line={pair.now} number={pair.now?.now} mark="+" changed={pair.before !== pair.now} />
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
        </section>
      ))}
    </>
  );
}

interface SideProps {
  line: Line | undefined;
  number: number | undefined;
  mark: string;
  changed: boolean;
}

/** A line with its number; what changed has a sign too, for those who do not see colours. */
function Side({ line, number, mark, changed }: SideProps) {
  const kind = line === undefined ? "none" : changed ? (mark === "-" ? "gone" : "come") : "same";
  return (
    <>
      <td className="number">{number}</td>
      <td className={kind}>
        <span aria-hidden={kind === "same"}>{kind === "gone" || kind === "come" ? mark : " "}</span> {line?.text}
      </td>
    </>
  );
}
