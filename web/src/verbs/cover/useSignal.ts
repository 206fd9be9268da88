import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type Band, data, http, type RadioLine } from "../../api/client";
import { addTo, changeIn, type Values } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { words } from "../../words";

export type Shown = keyof typeof words.signal.shown;

/** Access points, goals, rooms and clients of the project as it stands. */
export function useSignal() {
  return useOfRevision("signal", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/signal", { params: { path }, signal })),
  );
}

/** A floor in a band as contour lines and areas. */
export function usePicture(floor: number, band: Band, shown: Shown) {
  const { id, outcome } = useWork();
  return useQuery({
    queryKey: ["signal-picture", id, outcome.revision, floor, band, shown],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/signal/picture", {
          params: { path: { project_id: id }, query: { floor_id: floor, band, shown } },
          signal,
        }),
      ),
  }).data;
}

/** What is heard on an upright cut along an axis of the plan; none while the plan itself is looked at. */
export function useCut(band: Band, axis: "" | "x" | "y", at: number, shown: Shown) {
  const { id, outcome } = useWork();
  return useQuery({
    queryKey: ["signal-cut", id, outcome.revision, band, axis, at, shown],
    enabled: axis !== "",
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/signal/cut", {
          params: { path: { project_id: id }, query: { band, axis: axis || "x", at_m: at, shown } },
          signal,
        }),
      ),
  }).data;
}

/** What moving an access point for its looks would cost. */
export function useLooks(drop: number) {
  return useOfRevision(`signal-looks-${drop}`, (path, signal) =>
    data(http.GET("/api/projects/{project_id}/signal/moved", { params: { path, query: { drop_id: drop } }, signal })),
  );
}

/** What is heard at a spot of a floor. */
export function useHeard(floor: number, spot: readonly [number, number] | null) {
  const { id, outcome } = useWork();
  return useQuery({
    queryKey: ["signal-spot", id, outcome.revision, floor, spot],
    enabled: spot !== null,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/signal/spot", {
          params: { path: { project_id: id }, query: { floor_id: floor, x_m: spot?.[0] ?? 0, y_m: spot?.[1] ?? 0 } },
          signal,
        }),
      ),
  }).data;
}

/** A phone carried along a walk on a floor. */
export function useRoamed(floor: number, band: Band, corners: readonly (readonly [number, number])[] | null) {
  const { id, outcome } = useWork();
  const asked = corners?.map((spot) => spot.join(" ")).join(",") ?? "";
  return useQuery({
    queryKey: ["signal-walk", id, outcome.revision, floor, band, asked],
    enabled: asked !== "",
    retry: false,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/signal/walk", {
          params: { path: { project_id: id }, query: { floor_id: floor, band, corners: asked } },
          signal,
        }),
      ),
  }).data;
}

/** To say something of a band of an access point; the first word of it makes its row. */
export function useSayOfRadio() {
  const { outcome, edit } = useWork();
  return (drop: number, band: Band, said: Values<"radios">) => {
    const row = outcome.project.radios?.find((one) => one.drop_id === drop && one.band === band);
    return edit(row ? changeIn("radios", row.id, said) : addTo("radios", { drop_id: drop, band, ...said }));
  };
}

/** How a goal is spoken of: by its rooms. */
export function useGoalName() {
  const { goals, rooms } = useWork().outcome.project;
  return (number: number) => {
    const goal = goals?.find((one) => one.id === number);
    const asked = rooms.filter((room) => goal?.room_ids?.includes(room.id)).map((room) => room.name);
    return asked.join(", ") || (goal?.area ? words.signal.areaGoal : words.signal.anywhere);
  };
}

/** The share of its time that is asked of a radio, own and others'. */
export const asked = (radio: RadioLine) => radio.own + radio.shared;
