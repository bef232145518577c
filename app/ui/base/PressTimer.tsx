import Button from '@mui/material/Button';
import { useState } from 'react';
import { words } from '../../messages/index.ts';
import { Countdown } from './Countdown.tsx';
import { useTone } from './useTone.ts';

/** A press by itself, without a job: one tap closes it, the ring says when to open it. */
export function PressTimer({ seconds }: { seconds: number }) {
  const t = words.jobSheet.pressing;
  const tone = useTone();
  const [since, setSince] = useState<string>();
  if (!since)
    return (
      <Button
        className="above-10"
        onClick={() => {
          tone.wake();
          setSince(new Date().toISOString());
        }}
      >
        {t.timer(seconds)}
      </Button>
    );
  return (
    <div className="above-10">
      <Countdown since={since} seconds={seconds} says={t.closed} tone={tone} />
      <Button
        onClick={() => {
          tone.stop();
          setSince(undefined);
        }}
      >
        {t.open}
      </Button>
    </div>
  );
}
