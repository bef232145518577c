import { useCallback, useEffect, useRef, useState } from 'react';

type Tone = {
  /** Whether a tone may sound. */
  ready: boolean;
  /** Makes it ready: a browser lets nothing sound before something on the page was tapped, so a tap calls this. */
  wake: () => void;
  /** Sets tones so many ms ahead, instead of those that were set before. */
  at: (...inMs: number[]) => void;
  /** No tone after all: the press was opened. */
  stop: () => void;
};

/**
 * A tone at a moment, set ahead on the clock of the sound card: it sounds in time though the page is in the background and its timers are
 * slowed down.
 */
export function useTone(): Tone {
  const context = useRef<AudioContext>(undefined);
  const playing = useRef<OscillatorNode[]>([]);
  const [ready, setReady] = useState(false);
  useEffect(
    () => () => {
      void context.current?.close().catch(() => undefined);
    },
    [],
  );
  const stop = useCallback(() => {
    for (const old of playing.current) old.stop();
    playing.current = [];
  }, []);
  const wake = useCallback(() => {
    try {
      const sound = (context.current ??= new AudioContext());
      // Its clock stands still until it runs: what was set before then would sound late.
      void sound.resume().then(() => setReady(sound.state === 'running'));
    } catch {
      // No sound here: the ring and the number say it.
    }
  }, []);
  const at = useCallback(
    (...inMs: number[]) => {
      const sound = context.current;
      if (!sound) return;
      stop();
      const starts = inMs.map((ms) => sound.currentTime + Math.max(0, ms) / 1000);
      playing.current = starts
        .flatMap((s) => [s, s + 0.25, s + 0.5])
        .map((start) => {
          const tone = sound.createOscillator();
          const loud = sound.createGain();
          loud.gain.value = 0.25;
          tone.frequency.value = 880;
          tone.connect(loud).connect(sound.destination);
          tone.start(start);
          tone.stop(start + 0.15);
          return tone;
        });
    },
    [stop],
  );
  return { ready, wake, at, stop };
}

/** Moments that lie ahead, in ms from now, of those that were given as text. */
export const ahead = (dues: string): number[] =>
  (dues === '' ? [] : dues.split(',')).map((due) => Number(due) - Date.now()).filter((ms) => ms > 0);

/**
 * A tone at every moment that lies ahead. Set anew when one comes or goes, not when one runs out: the tone that sounds then is not cut off.
 * @param dues moments as text, ms since 1970, with commas between
 */
export function useTonesAt({ ready, at, stop }: Tone, dues: string): void {
  useEffect(() => {
    if (!ready) return;
    const all = ahead(dues);
    if (all.length > 0) at(...all);
    else stop();
  }, [dues, ready, at, stop]);
}
