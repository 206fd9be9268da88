import { useState } from "react";
import styled from "styled-components";
import { keepPicture } from "../api/files";
import { useWork } from "../api/work";
import { FileWord } from "../kit/FileWord";
import { words } from "../words";

const w = words.photos;

/** Photos by their keys: taken with the phone on site, or chosen from a file. */
export function PhotoRow(props: { photos: readonly string[]; set: (keys: string[]) => Promise<boolean> }) {
  const { photos, set } = props;
  const { id, say } = useWork();
  const [busy, setBusy] = useState(false);
  const take = async (chosen: File) => {
    setBusy(true);
    try {
      const kept = await keepPicture(id, chosen);
      await set([...photos, kept.key]);
    } catch (error) {
      say((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <Row>
      {photos.map((key, place) => (
        <figure key={key}>
          <a href={`/api/projects/${id}/pictures/${key}`} target="_blank" rel="noreferrer">
            <img src={`/api/projects/${id}/pictures/${key}`} alt={w.photo(place + 1)} />
          </a>
          <button
            type="button"
            aria-label={w.remove(place + 1)}
            onClick={() => set(photos.filter((one) => one !== key))}
          >
            ×
          </button>
        </figure>
      ))}
      <FileWord
        label={w.add}
        busy={busy && w.working}
        accept="image/png,image/jpeg"
        capture="environment"
        onFile={take}
      />
    </Row>
  );
}

const Row = styled.div`
  display: flex; flex-wrap: wrap; gap: 8px; align-items: end; padding-top: 6px;
  figure { margin: 0; position: relative; }
  img { width: 76px; height: 58px; object-fit: cover; display: block; border: 1px solid var(--rule); }
  figure button { position: absolute; top: 0; right: 0; background: var(--sheet); border: 0; cursor: pointer; color: var(--clay); line-height: 1; padding: 2px 4px; }
`;
