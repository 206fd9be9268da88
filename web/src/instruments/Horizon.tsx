import { useEffect, useState } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { useWork } from "../api/work";
import { words } from "../words";

const YEARS = 10;
const WIDTH = 150;

/** The ruler of years: everything on screen answers for the year that it points at. */
export function Horizon() {
  const { outcome, edit } = useWork();
  const { start_year: start, horizon_years: years } = outcome.project.settings;
  const [dragged, setDragged] = useState(years);
  useEffect(() => setDragged(years), [years]);
  return (
    <Ruler
      aria-label={words.ground.horizon}
      minValue={0}
      maxValue={YEARS}
      value={dragged}
      onChange={(value) => setDragged(value as number)}
      onChangeEnd={(value) => {
        if (value !== years) edit({ type: "change_settings", changes: { horizon_years: value as number } });
      }}
      formatOptions={{ useGrouping: false }}
    >
      <SliderTrack>
        <svg width={WIDTH + 2} height="18" aria-hidden="true">
          <path d={`M1 13.5H${WIDTH + 1}`} />
          {Array.from({ length: YEARS + 1 }, (_, year) => {
            const x = 1 + (year * WIDTH) / YEARS;
            return <path key={`tick-${x}`} d={`M${x} ${year % 5 === 0 ? 2 : 7}V14`} />;
          })}
        </svg>
        <SliderThumb aria-label={words.ground.horizon}>
          <svg width="16" height="13" aria-hidden="true">
            <polygon points="8,1 14,12 2,12" />
          </svg>
        </SliderThumb>
      </SliderTrack>
      <div className="years">
        <span>{words.ground.today}</span>
        <strong style={{ left: (dragged * WIDTH) / YEARS }}>{dragged > 0 && start + dragged}</strong>
        <span>{dragged < 9 && start + YEARS}</span>
      </div>
    </Ruler>
  );
}

const Ruler = styled(Slider)`
  width: ${WIDTH}px; margin-left: 1px;
  .react-aria-SliderTrack { height: 32px; width: ${WIDTH}px; position: relative; }
  .react-aria-SliderTrack > svg { position: absolute; left: -1px; }
  svg path { stroke: var(--ink); fill: none; }
  .react-aria-SliderThumb { top: 22px; width: 16px; height: 13px; cursor: grab; }
  .react-aria-SliderThumb[data-focus-visible] { outline: 2px solid var(--clay); }
  polygon { fill: var(--clay); }
  .years { position: relative; display: flex; justify-content: space-between; font-size: 12.5px; }
  .years strong { position: absolute; translate: -50%; font-weight: 700; background: var(--earth); padding: 0 3px; }
`;
