import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.bench;
const EVERY_MS = 250;

/** What browsers that read codes have; TypeScript does not know it yet. */
interface Detector {
  detect: (from: HTMLVideoElement) => Promise<readonly { rawValue: string }[]>;
}
type Detectors = new () => Detector;
const detectors = () => (window as { BarcodeDetector?: Detectors }).BarcodeDetector;

/** Reads bar and QR codes with the camera, where the browser can; nothing is shown where it cannot. */
export function CodeReader({ found }: { found: (text: string) => void }) {
  const [reading, setReading] = useState(false);
  const [failed, setFailed] = useState(false);
  if (!detectors() || !navigator.mediaDevices) return null;
  return (
    <Reader>
      <Word
        onPress={() => {
          setFailed(false);
          setReading(!reading);
        }}
      >
        {reading ? w.stop : w.read}
      </Word>
      {failed && <p>{w.noCamera}</p>}
      {reading && (
        <Camera
          found={(text) => {
            setReading(false);
            found(text);
          }}
          fail={() => {
            setReading(false);
            setFailed(true);
          }}
        />
      )}
    </Reader>
  );
}

function Camera({ found, fail }: { found: (text: string) => void; fail: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const told = useRef({ found, fail });
  told.current = { found, fail };
  useEffect(() => {
    const Reads = detectors();
    if (!Reads) return;
    const detector = new Reads();
    let stream: MediaStream | undefined;
    let isOver = false;
    const look = setInterval(async () => {
      if (!video.current || video.current.readyState < 2) return;
      const codes = await detector.detect(video.current).catch(() => []);
      const text = codes[0]?.rawValue;
      if (text && !isOver) {
        isOver = true;
        told.current.found(text);
      }
    }, EVERY_MS);
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: "environment" } })
      .then((given) => {
        stream = given;
        if (isOver) for (const track of given.getTracks()) track.stop();
        else if (video.current) video.current.srcObject = given;
      })
      .catch(() => told.current.fail());
    return () => {
      isOver = true;
      clearInterval(look);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, []);
  return (
    <>
      <video ref={video} autoPlay muted playsInline aria-label={w.aim} />
      <p>{w.aim}</p>
    </>
  );
}

const Reader = styled.div`
  display: grid; gap: 4px; justify-items: start;
  video { width: 100%; max-height: 240px; object-fit: cover; background: var(--earth); }
  p { color: var(--faint); }
`;
