import { useState } from 'react';
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
  const [seen, setSeen] = useState({ side: false, grip: false });
  return (
    <>
      <StepFilm job={job} step={step} layer={layer} shows="lines" onMat={layer.lies.mat !== 'none'} />
      <SideDrawing hex={layer.hex} side={layer.lies.side} />
      <p className="lies">
        <strong>{side.says}</strong> {words.carrier[layer.lies.carrier] && `${words.carrier[layer.lies.carrier]}. `}
        {side.sure} {layer.lies.cutFrom === 'back' ? t.mirrored : t.plain}
      </p>
      <p>
        {t.grip[layer.lies.mat === 'none' ? 'none' : gripOf(layer.hands.mat ?? layer.lies.mat)]}. {t.roll}
      </p>
      {(['side', 'grip'] as const).map((what) => (
        <label key={what} className="check">
          <input
            type="checkbox"
            checked={seen[what]}
            onChange={(e) => {
              const now = { ...seen, [what]: e.target.checked };
              setSeen(now);
              // Both were looked at: that is all there is to say of this step.
              if (now.side && now.grip) done();
            }}
          />{' '}
          {what === 'side' ? t.confirmSide[layer.lies.side] : t.confirmGrip}
        </label>
      ))}
      <p className="quiet">{t.first}</p>
    </>
  );
}
