import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { bothLengths } from '../../ui/base/format.ts';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Size } from './size.ts';

export type CutChoice = 'keep' | 'again';

/** A layer was cut at another width than is set now: what becomes of it is asked here, at the change. */
export function CutAlready({
  size,
  widthUm,
  choice,
  onChoice,
  onWidth,
}: {
  size: Size;
  widthUm: number;
  choice: CutChoice;
  onChoice: (choice: CutChoice) => void;
  onWidth: (um: number) => void;
}) {
  const t = words.jobSize;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const cut = cutOtherwise(size, widthUm);
  if (cut.length === 0) return null;
  const say = (um: number) => bothLengths(um, unit, style)[0];
  return (
    <fieldset className="notice cut-already" data-testid="cut-already">
      <legend className="visually-hidden">{t.cutAlready('', '')}</legend>
      {cut.map(({ layer, part, widthUm: was }) => (
        <p key={part}>
          <strong>{t.cutAlready(nameOf(size, layer), say(was))}</strong>
        </p>
      ))}
      {(['keep', 'again'] as const).map((key) => (
        <label key={key} className="check">
          <input type="radio" name="cut" value={key} checked={choice === key} onChange={() => onChoice(key)} />{' '}
          {key === 'keep' ? t.keepCut : t.cutAgain}
        </label>
      ))}
      <Button variant="text" onClick={() => onWidth(cut[0]!.widthUm)} data-testid="back-to">
        {t.backTo(say(cut[0]!.widthUm))}
      </Button>
    </fieldset>
  );
}

const nameOf = (size: Size, id: string): string => {
  const vinyl = size.layers.find((l) => l.id === id)?.vinyl;
  return vinyl ? vinylTitle(vinyl) : '';
};

/** Layers that are cut at another width than this. */
export const cutOtherwise = (size: Size, widthUm: number) => size.cut.filter((c) => Math.abs(c.widthUm - widthUm) > 50);
