import { useEffect, useState } from 'react';

/** What the plate says of itself, where a line to it says anything. */
export type Live = { name: string; simulated: boolean; celsius: number; set: number; closed: boolean };

/** A plate that has so much less than it should has not come back yet, °C. Judgement, no source. */
export const BEHIND = 4;

/** How hot the plate is now, asked every second; undefined where nobody says, or not lately. */
export function useLive(press: string | undefined): Live | undefined {
  const [live, setLive] = useState<Live>();
  useEffect(() => {
    let on = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      const said = await fetch(`/presses/live?press=${encodeURIComponent(press ?? '')}`)
        .then((r) => (r.ok ? (r.json() as Promise<Live | null>) : null))
        .catch(() => null);
      if (!on) return;
      setLive(said ?? undefined);
      // Where no line is named nobody asks again before the page is opened anew.
      timer = setTimeout(() => void ask(), said ? 1_000 : 30_000);
    };
    void ask();
    return () => {
      on = false;
      clearTimeout(timer);
    };
  }, [press]);
  return live;
}
