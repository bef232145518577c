import { cutMirrored } from '#core/vinyls/index.ts';
import type { ReactNode } from 'react';
import { sayEnough } from '../../ui/base/format.ts';
import { FilmDrawing } from '../../ui/jobs/FilmDrawing.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { sayStep } from './sayStep.ts';
import type { StepProps } from './useSheet.ts';

type Props = Pick<StepProps, 'job' | 'step' | 'layer'> & {
  shows: 'lines' | 'stays' | 'round it stays';
  /** On its mat, as wide as that is. */
  onMat?: boolean;
  /** What it shows, after the name of the step. */
  says?: string;
  /** Drawn over it, µm from the left top corner of the film. */
  over?: ReactNode;
  /** As large as it is, see `FilmDrawing`. */
  pxPerMm?: number | undefined;
};

/** The film of a step as it lies: what lies face down is turned, unless the file was drawn so. */
export function StepFilm({ job, step, layer, shows, onMat = false, says, over, pxPerMm }: Props) {
  const unit = useLengthUnit();
  const style = useNumberStyle();
  return (
    <FilmDrawing
      film={layer.film}
      shapes={layer.shapes}
      hex={layer.hex}
      mirrored={cutMirrored(layer.lies.cutFrom, job.plan.design!.mirrored)}
      mat={onMat ? { width: job.mat.widthUm } : undefined}
      marks={layer.marks}
      shows={shows}
      over={over}
      pxPerMm={pxPerMm}
      label={[sayStep(job, step), says].filter(Boolean).join('. ')}
      say={(um) => sayEnough(um, unit, style)}
    />
  );
}
