import type { ClosetStack, StackFor, Thing } from "../../api/client";
import { changeIn, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { exact, figure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { useSayOfThing } from "./useStack";

const w = words.thing;

const isOutlet = (where: string): where is keyof typeof w.outlets => where in w.outlets;

/** A thing of a closet: where it stands, how it is plugged, and of one that was put there its sizes. */
export function ThingSheet(props: { thing: Thing; here: ClosetStack; stack: StackFor; done: () => void }) {
  const { thing, here, stack, done } = props;
  const { outcome, edit } = useWork();
  const sayOf = useSayOfThing();
  const say = (said: Values<"placings">) => sayOf(thing, said);
  const row = outcome.project.placings?.find((one) => one.closet_id === thing.closet_id && one.thing === thing.key);
  const gear = outcome.project.gear?.find((one) => `gear/${one.id}` === thing.key);
  const change = (values: Values<"gear">) => edit(changeIn("gear", gear?.id ?? 0, values));
  const closet = outcome.project.closets.find((one) => one.id === thing.closet_id);
  const isRack = closet?.housing === "rack";
  const shelves = here.things.filter((one) => one.kind === "shelf" && one.units > 0);
  const strips = thing.kind === "strip" ? [] : here.things.filter((one) => one.kind === "strip");
  const lines = stack.lines.filter((line) => line.kind === thing.kind);
  const size = (
    label: string,
    key:
      | "width_mm"
      | "height_mm"
      | "depth_mm"
      | "units"
      | "mass_kg"
      | "draw_w"
      | "noise_dba"
      | "volts"
      | "ah"
      | "watts_most"
      | "va_most"
      | "outlets"
      | "free_m3_h"
      | "carries_kg"
      | "module_mm",
    usual: number | null | undefined,
    unit: string,
    least = 0,
  ) => (
    <>
      <Amount
        label={label}
        value={gear?.[key] ?? null}
        usual={usual ?? undefined}
        least={least}
        most={20000}
        set={(value) => change({ [key]: value })}
      />
      <i>{unit}</i>
    </>
  );
  return (
    <Sheet aria-label={thing.name}>
      <Heading>
        <h2>{thing.name}</h2>
        <span>{w.from[thing.source]}</span>
        <Word onPress={done}>{w.done}</Word>
      </Heading>
      {gear && (
        <>
          <Line label={w.name}>
            <Text label={w.name} value={gear.name ?? ""} placeholder={thing.name} set={(name) => change({ name })} />
          </Line>
          {lines.length > 0 && (
            <Line label={w.model}>
              <Choice
                label={w.model}
                value={gear.model ?? ""}
                options={[["", w.noModel], ...lines.map((line) => [line.key, line.name] as const)]}
                set={(model) => change({ model: model || null })}
              />
            </Line>
          )}
        </>
      )}
      {isRack && thing.units > 0 && (
        <>
          <Line label={w.unit}>
            <Amount
              label={w.unit}
              value={thing.unit ?? null}
              least={1}
              most={closet?.units ?? 60}
              set={(unit) => say({ unit })}
            />
            <i>{w.unitWhy}</i>
          </Line>
          {closet?.both_sides && (
            <Line label={w.face}>
              <Choice label={w.face} value={thing.face} options={optionsOf(w.faces)} set={(face) => say({ face })} />
            </Line>
          )}
        </>
      )}
      {isRack && thing.units === 0 && (
        <Line label={w.on}>
          <Choice
            label={w.on}
            value={thing.on}
            options={[["", w.noShelf], ...shelves.map((one) => [one.key, one.name] as const)]}
            set={(on) => say({ on })}
          />
        </Line>
      )}
      {closet?.housing === "panel" && (
        <Line label={w.turned}>
          <Tick label={w.turned} value={thing.turned} set={(turned) => say({ turned })}>
            {w.turnedWhy}
          </Tick>
        </Line>
      )}
      <Line label={w.fixed}>
        <Tick label={w.fixed} value={thing.fixed} set={(fixed) => say({ fixed })}>
          {w.fixedWhy}
        </Tick>
      </Line>
      {gear ? (
        <>
          <Line label={w.size}>
            {thing.units > 0
              ? size(w.height, "units", thing.units, "U", 1)
              : size(w.height, "height_mm", thing.height_mm, "mm", 1)}
            {size(w.depth, "depth_mm", thing.depth_mm, "mm")}
          </Line>
          {thing.units === 0 && <Line label={w.width}>{size(w.width, "width_mm", thing.width_mm, "mm", 1)}</Line>}
          <Line label={w.mass}>{size(w.mass, "mass_kg", thing.mass_kg, "kg")}</Line>
          {!["panel", "shelf", "manager", "free", "ups"].includes(thing.kind) && (
            <>
              <Line label={w.draws}>{size(w.draws, "draw_w", thing.mains_w, "W")}</Line>
              <Line label={w.plug}>
                <Choice
                  label={w.plug}
                  value={thing.plug}
                  options={optionsOf(w.plugs)}
                  set={(plug) => change({ plug })}
                />
              </Line>
              <Line label={w.noise}>{size(w.noise, "noise_dba", thing.noise_dba, "dB(A)")}</Line>
            </>
          )}
          {thing.kind === "shelf" && (
            <Line label={words.housing.title}>{size(words.stack.things, "carries_kg", thing.carries_kg, "kg")}</Line>
          )}
          {thing.kind === "panel" && (
            <Line label={w.module}>{size(w.module, "module_mm", null, w.moduleWhy(thing.positions), 1)}</Line>
          )}
          {thing.kind === "fan" && <Line label={w.air}>{size(w.air, "free_m3_h", thing.free_m3_h, "m³/h")}</Line>}
          {thing.kind === "ups" && (
            <>
              <Line label={w.battery}>
                {size(`${w.battery} V`, "volts", thing.volts, "V")}
                {size(`${w.battery} Ah`, "ah", thing.ah, "Ah")}
              </Line>
              <Line label={w.draws}>
                {size("W", "watts_most", thing.watts_most, "W")}
                {size("VA", "va_most", thing.va_most, "VA")}
              </Line>
              <Line label={w.outletsOf}>{size(w.outletsOf, "outlets", thing.outlets, "")}</Line>
            </>
          )}
        </>
      ) : (
        <>
          <Line label={w.size}>
            <span>{words.stack.sizes(thing.units, `${thing.depth_mm} mm`, `${exact(thing.mass_kg)} kg`)}</span>
          </Line>
          <Line label={w.draws}>
            <span>{figure(thing.mains_w)} W</span>
          </Line>
        </>
      )}
      {thing.sockets > 0 && thing.kind !== "ups" && (
        <>
          <Line label={w.outlet}>
            <Choice
              label={w.outlet}
              value={row?.strip || row?.outlet || ""}
              options={[...optionsOf<string>(w.outlets), ...strips.map((one) => [one.key, one.name] as const)]}
              set={(where) => say(isOutlet(where) ? { outlet: where, strip: "" } : { outlet: "", strip: where })}
            />
          </Line>
          {thing.outlet === "battery" && (
            <>
              <Line label={w.shed}>
                <Amount
                  label={w.shed}
                  value={row?.shed_percent ?? null}
                  least={0.1}
                  most={99.9}
                  set={(shed_percent) => say({ shed_percent })}
                />
                <i>{w.shedWhy}</i>
              </Line>
              <Line label={w.shutdown}>
                <Amount
                  label={w.shutdown}
                  value={row?.shutdown_min ?? null}
                  usual={thing.shutdown_min}
                  most={120}
                  set={(shutdown_min) => say({ shutdown_min })}
                />
                <i>{w.shutdownWhy}</i>
              </Line>
            </>
          )}
        </>
      )}
      {gear && (
        <div className="acts">
          <Word
            onPress={() => {
              done();
              edit({ type: "remove_entry", list: "gear", id: gear.id });
            }}
          >
            {w.remove}
          </Word>
        </div>
      )}
    </Sheet>
  );
}
