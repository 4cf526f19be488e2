import { useCallback } from "react";
import { useParams } from "react-router";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import type { Appearance } from "../theme/useAppearance";
import { ModuleEditor } from "./ModuleEditor";
import { startOf } from "./start";

/** A module's text in the making: its operations, the forms of one of them, and the text that both are. */
export default function ModulePage({ appearance }: { appearance: Appearance }) {
  const { name = "", version = "" } = useParams();
  const major = Number(version.slice(1));
  const { remote, again } = useRemote(useCallback(() => startOf(name, major), [name, major]));
  return (
    <RemoteView remote={remote} again={again}>
      {(start) => <ModuleEditor key={`${name}/${version}`} start={start} appearance={appearance} />}
    </RemoteView>
  );
}
