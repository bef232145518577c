import { useCallback, useEffect, useRef, useState } from 'react';

/**
 * A tone at a moment, set ahead on the clock of the sound card: it sounds in time though the page is in the background and its timers are
 * slowed down. A browser lets nothing sound before something on the page was tapped.
 */
export function useTone(): { ready: boolean; at: (inMs: number) => void; stop: () => void } {
  const context = useRef<AudioContext>(undefined);
  const playing = useRef<OscillatorNode[]>([]);
  const [ready, setReady] = useState(false);
  useEffect(
    () => () => {
      void context.current?.close().catch(() => undefined);
    },
    [],
  );
  /** No tone after all: the press was opened. */
  const stop = useCallback(() => {
    for (const old of playing.current) old.stop();
    playing.current = [];
  }, []);
  const at = useCallback(
    (inMs: number) => {
      try {
        context.current ??= new AudioContext();
        const sound = context.current;
        void sound.resume().then(() => setReady(sound.state === 'running'));
        stop();
        const start = sound.currentTime + Math.max(0, inMs) / 1000;
        playing.current = [0, 0.25, 0.5].map((after) => {
          const tone = sound.createOscillator();
          const loud = sound.createGain();
          loud.gain.value = 0.25;
          tone.frequency.value = 880;
          tone.connect(loud).connect(sound.destination);
          tone.start(start + after);
          tone.stop(start + after + 0.15);
          return tone;
        });
        setReady(true);
      } catch {
        // No sound here: the ring and the number say it.
      }
    },
    [stop],
  );
  return { ready, at, stop };
}
