import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { passesOf, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { bothLengths, metres } from '../../ui/base/format.ts';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { OwnNumber } from './OwnNumber.tsx';
import { LineSays, SendPart } from './SendPart.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { standingOf } from '../../ui/answer/VinylRow.tsx';
import { Corner } from '../../ui/vinyls/Swatch.tsx';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import type { StepProps } from './useSheet.ts';

/** What to set, and how the lines get to the cutter: by the line, as a file, or cut already. */
export function CutStep(props: StepProps) {
  const { job, work, step, layer } = props;
  const t = words.jobSheet.cut;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const usable = layer.stock.filter((p) => p.leftUm > 0);
  const [stock, setStock] = useState(usable[0]?.id ?? '');
  const { bench, line } = job;
  // Sent, and not told yet that it is cut: the line may have ended between two looks.
  const sent = work.facts.some((f) => f.part === layer.part && f.attempt === step.attempt && f.passes === 0);
  useLookAgain(sent || line?.run?.running ? 1_500 : undefined);
  if (!bench) return <p className="lede">{t.noBench}</p>;
  if (!layer.toSet || !layer.answer) return <NoNumber {...props} camps={!!layer.answer?.camps} />;
  const axis = strengthAxis(bench.model);
  const passes = passesOf(bench.model, layer.toSet.setting);
  const rest = layer.toSet.parts.filter((p) => p.key !== axis.key);
  const cut = () =>
    work.say({
      kind: 'cut',
      step: step.id,
      attempt: step.attempt,
      part: layer.part,
      setting: layer.toSet!.setting,
      mounting: bench.mounting,
      ...(stock ? { stock } : {}),
      witness: layer.film.mark !== undefined,
    });
  return (
    <>
      <LineSays line={line} />
      <ToSet
        axis={axis}
        position={layer.toSet.setting.steps[axis.key]!}
        sure={layer.answer.from !== 'type'}
        testId="job-to-set"
      />
      {rest.length > 0 && <p className="set-rest">{rest.map((p) => `${p.word} ${p.value}`).join(' · ')}</p>}
      {layer.row && (
        <>
          <div className="answer-strip">
            <RowStrip strip={layer.row.strip} width={420} height={20} />
          </div>
          <p>
            <Corner standing={standingOf(layer.row)} /> {words.standing[standingOf(layer.row)]} ·{' '}
            <Link to={`/vinyls/${layer.vinyl.id}`}>{t.card}</Link>
          </p>
        </>
      )}
      <p className="quiet">
        {t.length(
          `${metres(layer.lengthUm, style)} m`,
          passes > 1 ? `, ${words.plural(passes, 'pass', 'passes')}` : '',
        )}
        {layer.film.mark && ` · ${t.witness}`}
      </p>
      {usable.length > 0 && (
        <label className="line-up">
          {words.jobSheet.trim.from}{' '}
          <select value={stock} onChange={(e) => setStock(e.target.value)} className="plain-field">
            {usable.map((p) => (
              <option key={p.id} value={p.id}>
                {p.code}
                {p.colour ? `, ${p.colour}` : ''}: {words.jobSheet.trim.left(bothLengths(p.leftUm, unit, style)[0])}
              </option>
            ))}
            <option value="">{words.jobSheet.trim.none}</option>
          </select>
        </label>
      )}
      <div className="actions">
        <SendPart job={job} step={step} layer={layer} stock={stock} pass={passes} says={t.send} />
        <Button variant={line && line.devices.length > 0 ? 'outlined' : 'contained'} onClick={cut}>
          {t.button}
        </Button>
        {(['svg', 'hpgl', 'dxf'] as const).map((kind) => (
          <a key={kind} href={`/jobs/${job.id}/parts/${layer.part}.${kind}`} download className="plain-link">
            {kind.toUpperCase()}
          </a>
        ))}
      </div>
      <OwnNumber {...props} />
    </>
  );
}

/** Nobody knows a number, or two: the bench card says what to do. */
function NoNumber({ camps, ...props }: StepProps & { camps: boolean }) {
  const t = words.jobSheet.cut;
  return (
    <>
      <p className="lede">
        {camps ? t.camps : t.noNumber} <Link to={`/vinyls/${props.layer.vinyl.id}`}>{t.card}</Link>
      </p>
      <OwnNumber {...props} open />
    </>
  );
}
