import styled from "styled-components";
import { words } from "../words";
import { Word } from "./parts";

/** Something that is made elsewhere: how far it is, with a word that ends it; or why it is not there, with one that
 * begins it again. */
export function Making(props: {
  told: string;
  going: boolean;
  againLabel: string;
  stop: () => void;
  again: () => void;
}) {
  return (
    <Line role="status">
      {props.told}
      {props.going ? (
        <Word onPress={props.stop}>{words.stop}</Word>
      ) : (
        <Word onPress={props.again}>{props.againLabel}</Word>
      )}
    </Line>
  );
}

const Line = styled.span`
  color: var(--faint); display: flex; gap: 10px; align-items: baseline;
`;
