import { useEffect } from "react";
import { useNavigate } from "react-router";
import { useWork } from "../api/work";
import { VERBS } from "./OrderOfWork";

const TYPING = "input:not([type=checkbox]):not([type=radio]):not([type=range]), textarea, select, [contenteditable]";
const YEARS_AHEAD = 10;

/** Keys that work from anywhere; those of one letter stay out of the way while something is typed. */
export function useKeys(help: () => void): void {
  const { id, outcome, edit, undo, redo } = useWork();
  const navigate = useNavigate();
  useEffect(() => {
    const horizon = (step: number) => {
      const years = outcome.project.settings.horizon_years + step;
      if (years >= 0 && years <= YEARS_AHEAD) edit({ type: "change_settings", changes: { horizon_years: years } });
    };
    const acts: Record<string, () => void> = {
      "/": () => document.getElementById("quick-line")?.focus(),
      "?": help,
      "[": () => horizon(-1),
      "]": () => horizon(1),
      t: () => navigate(`/projects/${id}/walk/tally`),
      p: () => navigate(`/projects/${id}/walk/plan`),
      s: () => navigate(`/projects/${id}/walk/section`),
      f: () => document.querySelector<HTMLElement>("[data-finding]")?.focus(),
    };
    const inTally = (target: HTMLElement) => target.closest('[role="grid"]') !== null;
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
        return;
      }
      if (command || event.altKey || target.matches(TYPING) || target.closest('[role="dialog"]')) return;
      const verb = inTally(target) ? undefined : VERBS[Number(event.key) - 1];
      if (verb) {
        navigate(`/projects/${id}/${verb}`);
        return;
      }
      const act = acts[event.key];
      if (act) {
        event.preventDefault();
        act();
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [id, outcome, edit, undo, redo, navigate, help]);
}
