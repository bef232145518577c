import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { bothLengths, bothSizes } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { StepFilm } from './StepFilm.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { guessOf } from './CutStep.tsx';
import type { StepProps } from './useSheet.ts';
import { capitalise } from '#core/units/index.ts';

/** The piece of film to cut off. */
export function TrimStep({ job, step, layer, done }: StepProps) {
  const t = words.jobSheet.trim;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const { film } = layer;
  const guess = guessOf(layer) !== undefined;
  const from = layer.stock.find((p) => p.leftUm > 0);
  const [own, other] = bothSizes(film.width, film.height, unit, style);
  return (
    <>
      <p className="big-line">
        <span className="big wordy" data-testid="trim">
          {own}
        </span>{' '}
        <span className="quiet">{other}</span>
      </p>
      <p>
        {t.ask} {film.because.length > 0 && `${capitalise(film.because.map((b) => t.because[b]).join(', '))}.`}
      </p>
      {guess && !film.test && <p data-testid="guess-room">{t.guessRoom}</p>}
      {from && from.besideUm > 0 && (
        <p data-testid="beside">{t.beside(from.code, bothLengths(from.besideUm, unit, style)[0])}</p>
      )}
      <WriteForm
        what="waste"
        className="line-up in-waste"
        onChange={(e) => e.currentTarget.requestSubmit()}
        key={`${!!film.test} ${!!film.mark} ${!!film.frame} ${!!film.lines} ${layer.stencil}`}
      >
        <input type="hidden" name="layer" value={layer.id} />
        {(['test', 'mark', 'frame', 'lines'] as const).map((what) => (
          <label key={what} className="check">
            <input type="checkbox" name={what} value="yes" defaultChecked={film[what] !== undefined} /> {t.waste[what]}
          </label>
        ))}
        {layer.lies.bond === 'sticks' && layer.vinyl.type !== 'stencil' && (
          <label className="check">
            <input type="checkbox" name="stencil" value="yes" defaultChecked={layer.stencil} /> {t.waste.stencil}
          </label>
        )}
        {film.lines && <span className="quiet">{t.strips(film.lines.length)}</span>}
      </WriteForm>
      <StepFilm job={job} step={step} layer={layer} shows="lines" />
      <div className="actions">
        <Button variant="contained" onClick={done}>
          {t.button}
        </Button>
      </div>
    </>
  );
}
