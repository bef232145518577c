import Button from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import { words } from '../../messages/index.ts';
import { clockOf } from './format.ts';
import { useNow } from './useNow.ts';
import type { useTone } from './useTone.ts';

type Props = {
  /** When it began, and how long it lasts. */
  since: string;
  seconds: number;
  says: string;
  tone: ReturnType<typeof useTone>;
};

/** A ring that closes and the seconds that are left, at arm's length. It follows from when it began: a reload changes nothing. */
export function Countdown({ since, seconds, says, tone }: Props) {
  const end = Date.parse(since) + seconds * 1000;
  const now = useNow(true, 100);
  const left = Math.max(0, end - now);
  const spoken = useRef<string>(undefined);
  useEffect(() => {
    // One tone a countdown: set when sound may be made, or when somebody taps for it.
    if (!tone.ready || spoken.current === since || end < Date.now()) return;
    spoken.current = since;
    tone.at(end - Date.now());
  }, [end, since, tone]);
  const round = 2 * Math.PI * 88;
  return (
    <div className="countdown" data-testid="countdown" data-since={since} data-left={(left / 1000).toFixed(1)}>
      <svg viewBox="0 0 200 200" role="timer" aria-label={`${Math.ceil(left / 1000)} ${says}`}>
        <circle cx="100" cy="100" r="88" className="ring-back" />
        <circle
          cx="100"
          cy="100"
          r="88"
          className="ring"
          strokeDasharray={round}
          strokeDashoffset={(round * left) / (seconds * 1000 || 1)}
          transform="rotate(-90 100 100)"
        />
        <text x="100" y="118" textAnchor="middle" className="ring-number" data-long={left >= 100_000 || undefined}>
          {clockOf(left / 1000)}
        </text>
        <text x="100" y="146" textAnchor="middle" className="ring-word">
          {left > 0 ? says : words.jobSheet.pressing.over}
        </text>
      </svg>
      {!tone.ready && left > 0 && (
        <Button variant="text" onClick={tone.wake}>
          {words.jobSheet.pressing.sound}
        </Button>
      )}
    </div>
  );
}
