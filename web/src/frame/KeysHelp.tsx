import { Dialog, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Word } from "../kit/parts";
import { words } from "../words";

/** All keys on one sheet. */
export function KeysHelp(props: { isOpen: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Veil isDismissable isOpen={props.isOpen} onOpenChange={props.onOpenChange}>
      <Modal>
        <Sheet aria-label={words.keysHelp.title}>
          {({ close }) => (
            <>
              <h2>{words.keysHelp.title}</h2>
              <dl>
                {words.keysHelp.list.map(([key, what]) => (
                  <div key={key}>
                    <dt>{key}</dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </dl>
              <Word autoFocus onPress={close}>
                {words.close}
              </Word>
            </>
          )}
        </Sheet>
      </Modal>
    </Veil>
  );
}

const Veil = styled(ModalOverlay)`
  position: fixed; inset: 0; z-index: 20; display: grid; place-items: center;
  background: color-mix(in srgb, var(--paper) 70%, transparent);
`;

const Sheet = styled(Dialog)`
  background: var(--sheet); border: 1px solid var(--ink); padding: 20px 26px; outline: none; max-width: 94vw;
  h2 { font: 600 20px var(--voice); margin-bottom: 10px; }
  dl div { display: grid; grid-template-columns: 150px 1fr; gap: 18px; padding: 5px 0; border-top: 1px solid var(--rule); }
  dt { font-weight: 600; }
  dl { margin-bottom: 12px; }
`;
