import { useState } from "react";
import { type Ask, type Drill, data, http } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Choice } from "../../kit/Choice";
import { StepsOfBudget } from "../../kit/charts";
import { Amount } from "../../kit/fields";
import { figure } from "../../kit/figures";
import { Heading, Labelled } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { Surface } from "./Surface";

const w = words.drill;
const PRIORITIES = ["critical", "high", "low"] as const;

/** Power-up: every box feeds its devices one after another, and says whom it must refuse. */
export function DrillView() {
  const [growth, setGrowth] = useState(false);
  const [budget, setBudget] = useState<number | null>(null);
  const query = { with_reserve: growth, ...(budget === null ? {} : { budget_w: budget }) };
  const told = useOfRevision(`drill-${growth}-${budget}`, (path, signal) =>
    data(http.GET("/api/projects/{project_id}/drill", { params: { path, query }, signal })),
  );
  return (
    <Surface>
      <div className="main">
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          {told && told.drills.length === 0 && <p className="said">{w.none}</p>}
        </section>
        {told?.drills.map((drill, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: equal boxes are told apart by their place
          <OneBox key={place} drill={drill} />
        ))}
        <p className="faint">{w.source}</p>
      </div>
      <div className="beside">
        <section aria-label={w.terms}>
          <Heading>
            <h2>{w.terms}</h2>
          </Heading>
          <Labelled as="div">
            {w.growth}
            <Tick
              label={w.growth}
              value={growth}
              set={async (on) => {
                setGrowth(on);
                return true;
              }}
            />
          </Labelled>
          <Labelled>
            {w.budget}
            <Amount
              label={w.budget}
              value={budget}
              most={5000}
              set={async (watts) => {
                setBudget(watts);
                return true;
              }}
            />
          </Labelled>
          <p className="faint">{w.budgetWhy}</p>
        </section>
        <Findings verb="load" />
      </div>
    </Surface>
  );
}

function OneBox({ drill }: { drill: Drill }) {
  const { outcome, edit } = useWork();
  const named = useName();
  const refused = drill.steps.filter((step) => !step.fed).length;
  const reserved = drill.by_class.filter((step) => !step.fed).length;
  const given = drill.steps.at(-1)?.given_w ?? 0;
  const closet = outcome.project.closets.find((one) => one.id === drill.closet_id)?.name;
  return (
    <section aria-label={`${drill.name}, ${closet}`}>
      <Heading>
        <h2>{drill.name}</h2>
        <span>
          {closet}, {w.of(figure(given), figure(drill.budget_w))};{" "}
          {refused ? w.refused(refused, drill.steps.length) : w.all(drill.steps.length)}
        </span>
      </Heading>
      {drill.steps.length > 1 && (
        <StepsOfBudget
          budget={drill.budget_w}
          written={figure}
          steps={drill.steps.map((step) => ({ given: step.given_w, refused: step.fed ? 0 : step.ask.watts }))}
        />
      )}
      <div className="wide fits">
        <table>
          <thead>
            <tr>
              <th className="r">{w.column.order}</th>
              <th>{w.column.device}</th>
              <th>{w.column.priority}</th>
              <th className="r">{w.column.asks}</th>
              <th className="r">{w.column.after}</th>
            </tr>
          </thead>
          <tbody>
            {drill.steps.map((step, place) => {
              const id = step.ask.drop_id;
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: those in reserve have no number of their own
                <tr key={place} data-fails={!step.fed || undefined}>
                  <td className="r">{place + 1}</td>
                  <th scope="row">{named(step.ask)}</th>
                  <td>
                    {id == null ? (
                      w.priority.low
                    ) : (
                      <Choice
                        label={w.priorityOf(named(step.ask))}
                        value={step.ask.priority}
                        options={PRIORITIES.map((key) => [key, w.priority[key]] as const)}
                        set={(priority) =>
                          edit({ type: "change_drops", ids: [id], changes: { priority: priority as Ask["priority"] } })
                        }
                      />
                    )}
                  </td>
                  <td className="r">{figure(step.ask.watts)} W</td>
                  <td className="r">
                    {step.fed ? `${figure(step.given_w)} W` : w.left(figure(drill.budget_w - step.given_w))}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {drill.allocation !== "draw" && reserved > 0 && (
        <p className="said">
          {drill.allocation === "class" ? w.reserves : w.mayReserve(reserved, drill.by_class.length)}
        </p>
      )}
      {drill.lost.map((lost, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: supplies are told apart by their place
        <p className="said" key={place}>
          {w.lost(figure(lost.supply_w), figure(lost.left_w))}{" "}
          {lost.shed.length ? w.shed(lost.shed.map(named).join(", ")) : w.shedNone}
        </p>
      ))}
    </section>
  );
}

/** How a device that asks for watts is spoken of. */
function useName(): (ask: Ask) => string {
  const { outcome, kinds } = useWork();
  const { drops, rooms } = outcome.project;
  return (ask) => {
    const kind = kinds.find((one) => one.key === ask.kind)?.name ?? ask.kind;
    const drop = drops.find((one) => one.id === ask.drop_id);
    if (!drop) return `${kind}, ${w.reserve}`;
    return drop.label || `${kind}, ${rooms.find((room) => room.id === drop.room_id)?.name}`;
  };
}
