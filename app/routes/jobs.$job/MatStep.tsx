import { cutMirrored } from '#core/vinyls/index.ts';
import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { SideDrawing } from '../../ui/vinyls/SideDrawing.tsx';
import { StepFilm } from './StepFilm.tsx';
import type { StepProps } from './useSheet.ts';

/** A grip by its key, one's own or that of the vinyl. */
const gripOf = (key: string) =>
  key in words.jobSheet.mat.grip ? (key as keyof typeof words.jobSheet.mat.grip) : 'ordinary';

/** The film on the mat as it lies: side and grip are looked at by hand, each time. */
export function MatStep({ job, step, layer, done }: StepProps) {
  const t = words.jobSheet.mat;
  const side = words.side[layer.lies.side];
  return (
    <>
      <StepFilm job={job} step={step} layer={layer} shows="lines" onMat={layer.lies.mat !== 'none'} />
      <SideDrawing hex={layer.hex} side={layer.lies.side} />
      <p className="lies">
        <strong>{side.says}</strong> {words.carrier[layer.lies.carrier] && `${words.carrier[layer.lies.carrier]}. `}
        {side.sure} {cutMirrored(layer.lies.cutFrom) ? t.mirrored : t.plain}
      </p>
      <p>
        {t.grip[layer.lies.mat === 'none' ? 'none' : gripOf(layer.hands.mat ?? layer.lies.mat)]}. {t.roll}
      </p>
      <div className="actions">
        {/* Side and grip are looked at by hand, each time: what was seen is what the button says. */}
        <Button variant="contained" size="large" onClick={done} data-testid="laid">
          {t.confirmSide[layer.lies.side]}. {t.confirmGrip}.
        </Button>
      </div>
    </>
  );
}
