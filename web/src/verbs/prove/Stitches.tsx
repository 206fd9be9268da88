import styled from "styled-components";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.prove;
export const STRAIGHT: readonly number[] = [1, 2, 3, 4, 5, 6, 7, 8];

/** How a map is said: straight, or which pin ends where. */
export function said(pins: readonly number[] | null | undefined): string {
  if (!pins) return w.unmapped;
  const off = STRAIGHT.filter((pin) => pins[pin - 1] !== pin);
  return off.length ? off.map((pin) => `${pin}→${pins[pin - 1] || "–"}`).join(" ") : w.straight;
}

/** A run as eight stitches from pin to pin: crossed where it is crossed, torn where it is open. */
export function Stitches({ pins }: { pins: readonly number[] | null | undefined }) {
  return (
    <Cloth viewBox="0 0 64 18" role="img" aria-label={w.stitches(said(pins))} data-none={!pins || undefined}>
      {STRAIGHT.map((pin) => {
        const far = pins ? (pins[pin - 1] ?? 0) : pin;
        const x = (place: number) => 4 + (place - 1) * 8;
        return far ? (
          <line key={pin} x1={x(pin)} y1="1" x2={x(far)} y2="17" data-off={far !== pin || undefined} />
        ) : (
          <line key={pin} x1={x(pin)} y1="1" x2={x(pin)} y2="6" data-off />
        );
      })}
    </Cloth>
  );
}

/** The same, stitched by hand: a pin at the left, then where it ends. */
export function Stitching(props: {
  pins: readonly number[] | null;
  chosen: number | null;
  choose: (pin: number | null) => void;
  set: (pins: number[]) => void;
}) {
  const pins = props.pins ?? STRAIGHT.map(() => 0);
  const tear = (near: number) => props.set(pins.map((far, place) => (place === near - 1 ? 0 : far)));
  const join = (far: number) => {
    if (props.chosen == null) return;
    const near = props.chosen;
    props.set(pins.map((one, place) => (place === near - 1 ? far : one === far ? 0 : one)));
    props.choose(near < 8 ? near + 1 : null);
  };
  return (
    <Loom>
      <div>
        {STRAIGHT.map((pin) => (
          <button
            key={pin}
            type="button"
            aria-label={w.near(pin)}
            aria-pressed={props.chosen === pin}
            onClick={() => {
              if (props.chosen !== pin) return props.choose(pin);
              tear(pin);
              props.choose(null);
            }}
          >
            {pin}
          </button>
        ))}
      </div>
      <svg viewBox="0 0 100 80" preserveAspectRatio="none" aria-hidden>
        {STRAIGHT.map((pin) => {
          const far = pins[pin - 1] ?? 0;
          const y = (place: number) => place * 10 - 5;
          return far ? (
            <line key={pin} x1="0" y1={y(pin)} x2="100" y2={y(far)} data-off={far !== pin || undefined} />
          ) : (
            props.pins && <line key={pin} x1="0" y1={y(pin)} x2="22" y2={y(pin)} data-off />
          );
        })}
      </svg>
      <div>
        {STRAIGHT.map((pin) => (
          <button
            key={pin}
            type="button"
            aria-label={w.far(pin)}
            disabled={props.chosen == null}
            onClick={() => join(pin)}
          >
            {pin}
          </button>
        ))}
      </div>
    </Loom>
  );
}

const Cloth = styled.svg`
  width: 64px; height: 18px; display: inline-block; vertical-align: middle;
  line { stroke: var(--ink); stroke-width: 1.4; }
  line[data-off] { stroke: var(--clay); stroke-width: 2; }
  &[data-none] line { stroke: var(--rule); stroke-dasharray: 1 2; }
`;

const Loom = styled.div`
  display: grid; grid-template-columns: 44px minmax(60px, 1fr) 44px; max-width: 300px; margin: 6px 0;
  > div { display: grid; grid-template-rows: repeat(8, 26px); }
  svg { width: 100%; height: 208px; }
  line { stroke: var(--ink); stroke-width: 1.6; vector-effect: non-scaling-stroke; }
  line[data-off] { stroke: var(--clay); stroke-width: 2.4; }
  button { background: none; border: 1px solid var(--rule); margin: 1px 0; color: var(--ink); font: 600 14px var(--data); cursor: pointer; }
  button[aria-pressed="true"] { background: var(--ink); color: var(--sheet); border-color: var(--ink); }
  button:disabled { color: var(--faint); cursor: default; }
  ${NARROW} {
    max-width: none; grid-template-columns: 72px minmax(60px, 1fr) 72px;
    > div { grid-template-rows: repeat(8, 44px); } svg { height: 352px; }
    button { font-size: 18px; }
  }
`;
