import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { bothSizes } from '../../ui/base/format.ts';
import { StepFilm } from './StepFilm.tsx';
import { useLengthUnit } from '../../ui/people/usePerson.ts';
import type { StepProps } from './useSheet.ts';

/** The piece of film to cut off. */
export function TrimStep({ job, step, layer, done }: StepProps) {
  const t = words.jobSheet.trim;
  const unit = useLengthUnit();
  const { film } = layer;
  const [own, other] = bothSizes(film.width, film.height, unit);
  return (
    <>
      <p className="big-line">
        <span className="big wordy" data-testid="trim">
          {own}
        </span>{' '}
        <span className="quiet">{other}</span>
      </p>
      <p>
        {t.ask} {film.because.map((b) => t.because[b]).join(', ')}
      </p>
      <StepFilm job={job} step={step} layer={layer} shows="lines" />
      <div className="actions">
        <Button variant="contained" onClick={done}>
          {t.button}
        </Button>
      </div>
    </>
  );
}
