import { cutMirrored } from '#core/vinyls/index.ts';
import type { SettingPart } from '#core/controls/index.ts';
import type { Behaviour } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { isolate } from '../../ui/base/format.ts';

/** What else is set, right under the number: depth, speed, passes, mat, and whether the design lies mirrored. */
export function SetRest({
  rest,
  behaviour,
  bench,
}: {
  rest: SettingPart[];
  behaviour: Behaviour;
  bench: { mat: { name: string; advice: string } | undefined };
}) {
  const t = words.vinyl;
  const worn = bench.mat && behaviour.mat !== 'none' && bench.mat.advice !== 'good' ? bench.mat : undefined;
  return (
    <>
      <dl className="set-rest" data-testid="set-rest">
        <ControlFacts parts={rest} />
        <div>
          <dt>{t.mat}</dt>
          <dd>{t.matShort[behaviour.mat]}</dd>
        </div>
        <div>
          <dt>{t.mirror}</dt>
          <dd>{cutMirrored(behaviour.cutFrom) ? t.mirrorYes : t.mirrorNo}</dd>
        </div>
      </dl>
      {worn && (
        <p className="small">
          {worn.advice === 'wash' ? t.toWash(isolate(worn.name)) : t.toReplace(isolate(worn.name))}
        </p>
      )}
    </>
  );
}
