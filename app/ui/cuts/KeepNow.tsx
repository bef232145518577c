import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { formatPosition, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { WriteForm } from '../base/WriteForm.tsx';

/** Keeps one number with one tap, the other controls as they stand. */
export function KeepNow({
  vinyl,
  cutter,
  wanted,
  position,
  label,
  only,
  says,
  main = false,
}: {
  vinyl: string;
  cutter: { id: string; model: CutterModel };
  wanted: 'clean' | 'through';
  position: number;
  label: string;
  /** The colour it is kept for alone. */
  only?: string | undefined;
  /** Why, beside the button. */
  says?: ReactNode;
  /** Whether it is what the screen is for. */
  main?: boolean;
}) {
  return (
    <WriteForm what="keep" className="keep-line" data-testid="keep-line" preventScrollReset>
      <input type="hidden" name="vinyl" value={vinyl} />
      <input type="hidden" name="cutter" value={cutter.id} />
      <input type="hidden" name="wanted" value={wanted} />
      <input type="hidden" name="strength" value={formatPosition(strengthAxis(cutter.model), position)} />
      {only && (
        <>
          <input type="hidden" name="colour" value={only} />
          <input type="hidden" name="only" value="yes" />
        </>
      )}
      {says && <p>{says}</p>}
      <Button type="submit" variant={main ? 'contained' : 'outlined'}>
        {label}
      </Button>
    </WriteForm>
  );
}
