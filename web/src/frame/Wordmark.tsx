import styled from "styled-components";
import { words } from "../words";

/** The name and the pit: ground with something standing on it. */
export function Wordmark() {
  return (
    <Mark>
      {words.name}
      <svg width="15" height="13" viewBox="0 0 15 13" aria-hidden="true">
        <path d="M0 1.6h3v10h9v-10h3" fill="none" stroke="currentColor" strokeWidth="1.4" />
        <path d="M3.7 6h7.6v5H3.7z" fill="currentColor" />
      </svg>
    </Mark>
  );
}

const Mark = styled.span`
  font: 650 20px/1 var(--voice); display: inline-flex; align-items: baseline; gap: 7px; letter-spacing: 0.01em;
`;
