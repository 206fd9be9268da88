import { useEffect, useState } from "react";

/** A value shown as chosen at once, before the server has said so; it goes back when the edit is refused. */
export function useShown<Value>(
  value: Value,
  send: (value: Value) => Promise<boolean>,
): [Value, (value: Value) => void] {
  const [shown, setShown] = useState(value);
  useEffect(() => setShown(value), [value]);
  const choose = (next: Value) => {
    setShown(next);
    send(next).then((taken) => {
      if (!taken) setShown(value);
    });
  };
  return [shown, choose];
}
