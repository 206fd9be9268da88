import { type ComponentType, Suspense } from "react";
import { NavLink, useParams } from "react-router";
import { useWork } from "../api/work";
import { Views } from "../kit/parts";
import { EmptyWalk } from "../verbs/walk/EmptyWalk";

/** A verb with several views: a tab for each, the first one until another is chosen; nothing to see without a room. */
export function VerbViews<Key extends string>(props: {
  verb: string;
  label: string;
  names: Readonly<Record<Key, string>>;
  views: Readonly<Record<Key, ComponentType>>;
  /** Views that are drawings: they take the whole surface. */
  drawings?: readonly Key[];
}) {
  const { id, outcome } = useWork();
  const keys = Object.keys(props.views) as Key[];
  const asked = useParams().view as Key | undefined;
  const shown = keys.find((key) => key === asked) ?? keys[0];
  if (!outcome.project.rooms.length || !shown) return <EmptyWalk />;
  const View: ComponentType = props.views[shown];
  return (
    <Views data-drawing={props.drawings?.includes(shown) || undefined}>
      <nav aria-label={props.label}>
        {keys.map((key) => (
          <NavLink key={key} to={`/projects/${id}/${props.verb}/${key}`} className={key === shown ? "active" : ""}>
            {props.names[key]}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<p aria-busy="true">…</p>}>
        <View />
      </Suspense>
    </Views>
  );
}
