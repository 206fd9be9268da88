import { useState } from "react";
import { data, http, type Schemas } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { clock } from "./TestSheet";

export type Step = Schemas["StepTold"];
export type Stage = Schemas["StageTold"];

/** Phases, stages and steps of the project, as far as they are done. */
export function useOrder() {
  return useOfRevision("order", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/order", { params: { path }, signal })),
  );
}

export function useBench() {
  return useOfRevision("bench", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/bench", { params: { path }, signal })),
  );
}

export function usePowerUp() {
  return useOfRevision("power-up", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/power-up", { params: { path }, signal })),
  );
}

/** Ticks things of a stage off, or opens them again, in somebody's name. */
export function useTicks() {
  const { outcome, edit } = useWork();
  const [by, setBy] = useState(() => outcome.project.ticks?.at(-1)?.by ?? "");
  const tick = (stage: Stage["stage"], subjects: string[], done: boolean) =>
    edit(
      done
        ? { type: "tick_work", stage, subjects, at: clock(), by: by.trim() }
        : { type: "untick_work", stage, subjects },
    );
  return { by, setBy, tick };
}
