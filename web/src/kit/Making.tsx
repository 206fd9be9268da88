import styled from "styled-components";
import { words } from "../words";
import { Word } from "./parts";

/** Something that is made elsewhere: how far it is, with a word that ends it; or why it is not there, with one that
 * begins it again. */
export function Making(props: {
  told: string;
  going: boolean;
  stop: () => void;
  again?: { label: string; press: () => void };
}) {
  return (
    <Line role="status">
      {props.told}
      {props.going ? (
        <Word onPress={props.stop}>{words.stop}</Word>
      ) : (
        props.again && <Word onPress={props.again.press}>{props.again.label}</Word>
      )}
    </Line>
  );
}

const Line = styled.span`
  color: var(--faint); display: flex; gap: 10px; align-items: baseline;
`;
