import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useDeferredValue, useRef, useState } from "react";
import styled from "styled-components";
import { data, type Edit, http } from "../api/client";
import { useChosen, useWork } from "../api/work";
import { words } from "../words";

/** Takes what people say out loud; shows what it understood before Enter, and marks the word that it did not. */
export function QuickLine() {
  const { id, edit, outcome } = useWork();
  const chosen = useChosen();
  const [text, setText] = useState("");
  const asked = useDeferredValue(text.trim());
  const line = useRef<HTMLInputElement>(null);
  const reading = useQuery({
    queryKey: ["quick", id, outcome.revision, asked, text.endsWith(" "), chosen.roomId],
    enabled: asked !== "",
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      data(
        http.POST("/api/projects/{project_id}/quick-line", {
          params: { path: { project_id: id } },
          body: { text, room_id: chosen.roomId },
          signal,
        }),
      ),
  });
  const understood = asked ? reading.data : undefined;
  const completion = understood?.completions[0];

  const take = async () => {
    const fresh = await data(
      http.POST("/api/projects/{project_id}/quick-line", {
        params: { path: { project_id: id } },
        body: { text, room_id: chosen.roomId },
      }),
    ).catch(() => null);
    if (fresh?.edits.length && (await edit(...(fresh.edits as Edit[])))) setText("");
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter") {
      event.preventDefault();
      take();
    } else if (event.key === "Tab" && !event.shiftKey && completion && text.trim()) {
      event.preventDefault();
      setText(`${completion} `);
    } else if (event.key === "Escape") {
      if (text) setText("");
      else line.current?.blur();
    }
  };
  return (
    <Line>
      <kbd>/</kbd>
      <input
        id="quick-line"
        ref={line}
        aria-label={words.quick.label}
        aria-describedby="quick-line-heard"
        placeholder={words.quick.placeholder}
        autoComplete="off"
        spellCheck={false}
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={press}
      />
      <output id="quick-line-heard" aria-live="polite">
        {understood && (
          <>
            <span className="tokens" hidden={!understood.tokens.length}>
              {understood.tokens.map((token, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: words may repeat, their place is what they are
                <span key={place} data-role={token.role}>
                  {token.text}
                </span>
              ))}
            </span>
            {understood.answer?.map((line) => (
              <span key={line} className="answer">
                {line}
              </span>
            ))}
            {understood.answer?.length ? null : understood.told ? (
              <span className="told">
                {understood.told} — {words.quick.enter}
              </span>
            ) : (
              <span className="odd">{understood.complaint}</span>
            )}
            {completion && <span className="more">Tab: {completion}</span>}
          </>
        )}
      </output>
    </Line>
  );
}

const Line = styled.div`
  position: relative; display: flex; align-items: baseline; gap: 8px; border-bottom: 1px solid var(--ink); min-width: 0;
  kbd { font: inherit; font-size: 12px; border: 1px solid var(--faint); padding: 0 4px; color: var(--faint); }
  input { flex: 1; min-width: 0; background: none; border: 0; padding: 2px 0 5px; outline: none; }
  input::placeholder { color: var(--faint); opacity: 1; }
  &:focus-within { box-shadow: 0 1px 0 var(--clay); border-color: var(--clay); }
  output {
    position: absolute; z-index: 5; top: calc(100% + 1px); left: 0; right: 0; background: var(--sheet);
    border: 1px solid var(--ink); border-top: 0; padding: 7px 10px; display: grid; gap: 3px;
  }
  output:empty, &:not(:focus-within) output { display: none; }
  .tokens span { padding: 0 4px; margin-right: 3px; background: var(--earth); }
  .tokens [data-role="unknown"] { background: none; border-bottom: 2px solid var(--clay); color: var(--clay); }
  .tokens [data-role="filler"] { background: none; color: var(--faint); }
  .told { color: var(--moss); }
  .odd { color: var(--clay); }
  .answer { font: 15px/1.35 var(--voice); }
  .more { color: var(--faint); font-size: 12.5px; }
`;
