import { useEffect, useRef, useState } from "react";
import type { ReachFor } from "../../api/client";
import { useWork } from "../../api/work";
import { figure, length, lengthUnit, money } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.moved;

interface Before {
  closets: string;
  reach: ReachFor;
}

/** What moving a closet has cost and broken, told at once and until it is seen. */
export function ClosetMoved({ reach }: { reach: ReachFor }) {
  const { outcome } = useWork();
  const { closets, settings } = outcome.project;
  const now = JSON.stringify(closets.map((one) => [one.id, one.room_id, one.x_m, one.y_m]));
  const last = useRef<Before | null>(null);
  const [from, setFrom] = useState<ReachFor | null>(null);
  useEffect(() => {
    // the runs on screen are of an older state while the new ones are computed
    if (reach.revision !== outcome.revision) return;
    if (last.current && last.current.closets !== now) {
      const before = last.current.reach;
      setFrom((kept) => kept ?? before);
    }
    last.current = { closets: now, reach };
  }, [reach, now, outcome.revision]);
  if (!from) return null;
  const sign = (value: number, text: string) => `${value < 0 ? "−" : "+"}${text}`;
  const metres = reach.total_m - from.total_m;
  const hours = reach.hours - from.hours;
  const cost = reach.cost_minor - from.cost_minor;
  const broken = reach.too_long.length - from.too_long.length;
  return (
    <p className="caution" role="status">
      {w.title}:{" "}
      {w.told(
        `${sign(metres, length(Math.abs(metres)))} ${lengthUnit()}`,
        `${sign(hours, figure(Math.abs(hours)))} h`,
        sign(cost, money(Math.abs(cost), settings.currency)),
      )}
      ;{" "}
      {broken > 0
        ? w.broken(reach.too_long.length)
        : broken < 0
          ? w.mended(-broken)
          : reach.too_long.length
            ? w.broken(reach.too_long.length)
            : w.same}
      . <Word onPress={() => setFrom(null)}>{w.close}</Word>
    </p>
  );
}
