import Button from '@mui/material/Button';
import type { Judgement } from '#core/artwork/index.ts';
import { words } from '../../messages/index.ts';
import { sayLength, stepUp } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';

type Props = {
  widthUm: number;
  judged: Judgement;
  onWidth: (um: number) => void;
};

/** Widths a crafter makes, µm. */
const LEAST = 10_000;
const MOST = 600_000;

/** One answer: does it cut and weed at this size; and the size itself, to drag. */
export function Size({ widthUm, judged, onWidth }: Props) {
  const { free, smallest } = judged;
  const faults = judged.faults.length;
  const t = words.check;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const say = (um: number) => sayLength(um, unit, style);
  const cure = free === undefined ? Infinity : stepUp(free, unit);
  return (
    <>
      <p className="big-line">
        <span className="big wordy" data-testid="check-answer">
          {faults === 0 ? t.good : t.bad(faults)}
        </span>
      </p>
      <label className="size-drag">
        <span>
          {t.width} <strong data-testid="check-width">{say(widthUm)}</strong>
        </span>
        <input
          type="range"
          min={LEAST}
          max={Math.max(MOST, widthUm)}
          step={unit === 'in' ? 3_175 : 1_000}
          value={widthUm}
          onChange={(e) => onWidth(Number(e.target.value))}
        />
      </label>
      <p data-testid="check-sizes">
        {cure > MOST ? (
          t.none
        ) : cure > 0 ? (
          <>
            {t.from(say(cure))}
            {smallest !== undefined && smallest > 0 && smallest < cure && ` ${t.below(say(smallest))}`}{' '}
            {widthUm < cure && (
              <Button variant="text" onClick={() => onWidth(cure)} data-testid="check-cure">
                {t.make(say(cure))}
              </Button>
            )}
          </>
        ) : (
          t.any
        )}
      </p>
    </>
  );
}
