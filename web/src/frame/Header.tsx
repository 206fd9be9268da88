import { Link } from "react-router";
import styled from "styled-components";
import { useWork } from "../api/work";
import { Word } from "../kit/parts";
import { NARROW } from "../kit/theme";
import { words } from "../words";
import { QuickLine } from "./QuickLine";
import { Wordmark } from "./Wordmark";

/** Whose project it is, whether it is saved, what undo would do, and the quick line. */
export function Header({ onKeys }: { onKeys: () => void }) {
  const { id, outcome, saving, waiting, undo, redo } = useWork();
  const { project, revision } = outcome;
  return (
    <Bar>
      <Link to="/projects" aria-label={`${words.name}: ${words.projects}`} className="mark">
        <Wordmark />
      </Link>
      <div className="what">
        <h1 title={project.site || project.name}>{project.name}</h1>
        <span role="status">{waiting ? words.waiting(waiting) : saving ? words.saving : words.saved(revision)}</span>
      </div>
      <div className="acts">
        <Word
          isDisabled={!outcome.undo}
          onPress={undo}
          aria-label={outcome.undo ? words.undoWhat(outcome.undo) : words.nothingToUndo}
        >
          <span title={outcome.undo ? words.undoWhat(outcome.undo) : words.nothingToUndo}>{words.undo}</span>
        </Word>
        <Word
          isDisabled={!outcome.redo}
          onPress={redo}
          aria-label={outcome.redo ? words.redoWhat(outcome.redo) : words.nothingToRedo}
        >
          <span title={outcome.redo ? words.redoWhat(outcome.redo) : words.nothingToRedo}>{words.redo}</span>
        </Word>
        <a href={`/api/projects/${id}/export`} download>
          {words.file}
        </a>
        <Word onPress={onKeys}>{words.keys}</Word>
      </div>
      <QuickLine />
    </Bar>
  );
}

const Bar = styled.header`
  grid-area: header; display: grid; grid-template-columns: 112px minmax(0, 1fr) auto minmax(330px, 34%);
  align-items: baseline; gap: 20px; padding: 15px 16px 0 20px; border-bottom: 1px solid var(--ink);
  .mark { color: inherit; text-decoration: none; }
  .what { display: flex; gap: 8px; align-items: baseline; min-width: 0; white-space: nowrap; }
  .what h1 { font-size: 13.5px; font-weight: 650; overflow: hidden; text-overflow: ellipsis; }
  .what span { color: var(--faint); }
  .acts { display: flex; gap: 14px; align-items: baseline; }
  ${NARROW} {
    grid-template-columns: auto minmax(0, 1fr); gap: 8px 14px; padding-bottom: 10px;
    .what { flex-direction: column; gap: 0; white-space: normal; }
    .acts { grid-column: 1 / -1; }
    > :last-child { grid-column: 1 / -1; }
  }
`;
