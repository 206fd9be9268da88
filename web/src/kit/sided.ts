import styled from "styled-components";
import { NARROW } from "./theme";

/** A surface that scrolls as a whole, with a column beside it; under it where there is no room. */
export const Sided = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px;
  > .beside { border-left: 1px solid var(--rule); padding: 10px 16px 20px; display: grid; gap: 16px; align-content: start; margin-top: -28px; grid-template-columns: minmax(0, 1fr); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > .beside { border-left: 0; border-top: 1px solid var(--rule); margin-top: 0; } }
`;
