import Button from '@mui/material/Button';
import { useState } from 'react';
import { words } from '../../messages/index.ts';
import { CARD } from './useScreen.ts';

/** Where a screen nobody measured begins, pixels: 96 to the inch, as browsers mean it. */
const BEGIN = Math.round((CARD.width / 25.4) * 96);

/** Measures the screen by a bank card that is held to it. */
export function TrueSize({ onMeasured }: { onMeasured: (px: number) => void }) {
  const t = words.jobSheet.weed.screen;
  const [px, setPx] = useState(BEGIN);
  return (
    <div className="card-frame-box">
      <p>{t.hold}</p>
      <div className="card-frame" style={{ width: px, height: (px * CARD.height) / CARD.width }} aria-hidden="true" />
      <input
        type="range"
        min={150}
        max={900}
        value={px}
        aria-label={t.drag}
        onChange={(e) => setPx(Number(e.target.value))}
        data-testid="card-width"
      />
      <div className="actions">
        <Button variant="contained" onClick={() => onMeasured(px)}>
          {t.fits}
        </Button>
      </div>
    </div>
  );
}
