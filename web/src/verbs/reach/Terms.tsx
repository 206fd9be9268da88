import { useWork } from "../../api/work";
import { Amount, Choice } from "../../kit/fields";
import { lengthUnit, minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";

const w = words.cable;

/** Under what terms lengths and hours are told, and how cable is pulled. */
export function Terms() {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <Sheet aria-label={w.terms}>
      <Heading>
        <h2>{w.terms}</h2>
      </Heading>
      <Line label={w.routeBy}>
        <Choice
          label={w.routeBy}
          value={settings.route_by}
          options={Object.entries(w.by)}
          set={(by) => set({ route_by: by as typeof settings.route_by })}
        />
      </Line>
      {(
        [
          ["closet_loop_m", w.closetLoop],
          ["jack_loop_m", w.jackLoop],
          ["ceiling_loop_m", w.ceilingLoop],
        ] as const
      ).map(([key, label]) => (
        <Line key={key} label={label}>
          <Amount label={label} value={settings[key]} metres most={20} set={(value) => set({ [key]: value ?? 0 })} />
          <i>{lengthUnit()}</i>
        </Line>
      ))}
      <Line label={w.perEnd}>
        <Amount
          label={w.perEnd}
          value={settings.hours_per_end}
          most={20}
          set={(value) => set({ hours_per_end: value ?? 0 })}
        />
        <i>h</i>
      </Line>
      <Line label={w.hour}>
        <Amount
          label={w.hour}
          value={settings.hour_minor / minorPerUnit(settings.currency)}
          most={100_000}
          set={(value) => set({ hour_minor: Math.round((value ?? 0) * minorPerUnit(settings.currency)) })}
        />
        <i>{settings.currency}</i>
      </Line>
      <Line label={w.further}>
        <Amount
          label={`${w.further}: ${w.furtherWhy}`}
          value={settings.further_percent}
          most={100}
          set={(value) => set({ further_percent: value ?? 0 })}
        />
        <i>{w.furtherWhy}</i>
      </Line>
      <Line label={w.atMost}>
        <Amount
          label={`${w.atMost}: ${w.atMostWhy}`}
          value={settings.bundle_most}
          least={1}
          most={100}
          set={(value) => set({ bundle_most: value ?? 24 })}
        />
        <i>{w.atMostWhy}</i>
      </Line>
    </Sheet>
  );
}
