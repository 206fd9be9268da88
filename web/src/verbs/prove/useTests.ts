import { data, http, type Schemas } from "../../api/client";
import { useOfRevision } from "../../api/work";

export type RunTests = Schemas["RunTestsFor"];
export type TestedRun = Schemas["TestedRun"];

/** Every run of the project, as it was tested. */
export function useTests() {
  return useOfRevision("run-tests", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/tests", { params: { path }, signal })),
  );
}

/** A rate as it is said. */
export const rate = (mbit: number) => (mbit >= 1000 ? `${mbit / 1000} Gbit/s` : `${mbit} Mbit/s`);
