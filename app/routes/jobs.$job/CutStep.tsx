import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { passesOf, strengthAxis } from '#core/controls/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';
import { oneOf } from '#core/window/index.ts';
import { words } from '../../messages/index.ts';
import { bothLengths, metres } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { RowStrip } from '../../ui/base/RowStrip.tsx';
import { OwnNumber } from './OwnNumber.tsx';
import { LineSays, SendPart } from './SendPart.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { useLengthUnit, useNumberStyle } from '../../ui/people/usePerson.ts';
import { standingOf } from '../../ui/answer/VinylRow.tsx';
import { Corner } from '../../ui/vinyls/Swatch.tsx';
import { useLookAgain } from '../../ui/base/useLookAgain.ts';
import type { StepProps } from './useSheet.ts';
import { capitalise } from '#core/units/index.ts';

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
  const guess = guessOf(layer);
  const risk = layer.answer.chance === undefined ? undefined : oneOf(1 - layer.answer.chance);
  return (
    <>
      <LineSays line={line} />
      <ToSet
        axis={axis}
        position={layer.toSet.setting.steps[axis.key]!}
        sure={guess === undefined}
        testId="job-to-set"
      />
      {rest.length > 0 && <p className="set-rest">{rest.map((p) => `${p.word} ${p.value}`).join(' · ')}</p>}
      {layer.row && (
        <>
          <div className="answer-strip">
            <RowStrip strip={layer.row.strip} width={420} height={20} />
          </div>
          {guess ? (
            <Guess layer={layer} guess={guess} risk={risk} />
          ) : (
            <p>
              <Corner standing={standingOf(layer.row)} /> {capitalise(words.standing[standingOf(layer.row)])}.{' '}
              {risk && <span data-testid="risk">{t.risk(risk)}</span>}{' '}
              <Link to={`/vinyls/${layer.vinyl.id}`}>{t.card}</Link>
            </p>
          )}
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
      {guess ? (
        <GuessWays {...props} cut={cut} stock={stock} passes={passes} />
      ) : (
        <>
          <div className="actions">
            <SendPart job={job} step={step} layer={layer} stock={stock} pass={passes} says={t.send} />
            <Button
              variant={line && line.devices.length > 0 ? 'outlined' : 'contained'}
              onClick={cut}
              data-testid="cut"
            >
              {t.button}
            </Button>
            <CutFiles job={job.id} part={layer.part} />
          </div>
          <OwnNumber {...props} />
        </>
      )}
    </>
  );
}

/** The cut as a file, for a cutter that is fed by hand. */
const CutFiles = ({ job, part }: { job: string; part: string }) =>
  (['svg', 'hpgl', 'dxf'] as const).map((kind) => (
    <a key={kind} href={`/jobs/${job}/parts/${part}.${kind}`} download className="plain-link">
      {kind.toUpperCase()}
    </a>
  ));

type GuessFrom = 'type' | 'translated' | 'others';
/** Where the number of a layer comes from that nobody has cut here; undefined where somebody has, or has said it. */
export const guessOf = ({ answer }: StepProps['layer']): GuessFrom | undefined =>
  answer && (answer.from === 'type' || answer.from === 'translated' || answer.from === 'others')
    ? answer.from
    : undefined;

/** A number that nobody has tried here is called a guess, with how often it fails and where it is from. */
function Guess({ layer, guess, risk }: Pick<StepProps, 'layer'> & { guess: GuessFrom; risk: string | undefined }) {
  const t = words.jobSheet.cut.guess;
  const says =
    guess === 'type'
      ? t.from.type(vinylTypes[layer.vinyl.type].word)
      : guess === 'others'
        ? t.from.others(words.plural(layer.row?.crafters ?? 1, 'crafter'))
        : t.from.translated;
  return (
    <div data-testid="guess">
      <h3>{guess === 'others' ? t.titleOthers(risk) : t.title(risk)}</h3>
      <p className="quiet">
        {says} <Link to={`/vinyls/${layer.vinyl.id}`}>{words.jobSheet.cut.card}</Link>
      </p>
    </div>
  );
}

/** What to do about a guess: a test cut, a mark to look at, or a number one knows. Nothing is cut on it unasked. */
function GuessWays({ cut, stock, passes, ...props }: StepProps & { cut: () => void; stock: string; passes: number }) {
  const t = words.jobSheet.cut.guess;
  const { job, step, layer } = props;
  const devices = job.line?.devices ?? [];
  const query = new URLSearchParams({
    vinyl: layer.vinyl.id,
    ...(layer.vinyl.colour ? { colour: layer.vinyl.colour.id } : {}),
    job: job.id,
  });
  return (
    <div className="guess-ways">
      <GoButton to={`/coupons/new?${query.toString()}`} variant="contained" data-testid="test-first">
        <Way says={t.test} how={layer.film.test ? t.testHere : t.testHow} />
      </GoButton>
      {layer.film.mark ? (
        <>
          <SendPart job={job} step={step} layer={layer} stock={stock} pass={passes} says={t.marked} calm />
          <Button onClick={cut} data-testid="mark-and-look">
            <Way says={devices.length > 0 ? words.jobSheet.cut.button : t.mark} how={t.markHow} />
          </Button>
        </>
      ) : (
        <WriteForm what="waste" preventScrollReset>
          <input type="hidden" name="layer" value={layer.id} />
          <input type="hidden" name="mark" value="yes" />
          {(['frame', 'lines', 'stencil'] as const).map(
            (key) => layer.waste[key] && <input key={key} type="hidden" name={key} value="yes" />,
          )}
          <Button type="submit" data-testid="add-mark">
            <Way says={t.addMark} how={t.addMarkHow} />
          </Button>
        </WriteForm>
      )}
      {!layer.film.mark && (
        <div className="line-up">
          <SendPart job={job} step={step} layer={layer} stock={stock} pass={passes} says={t.without} calm="quiet" />
          <Button variant="text" onClick={cut} data-testid="cut-anyway">
            {t.cutWithout}
          </Button>
        </div>
      )}
      <OwnNumber {...props} summary={t.own} />
      <p className="line-up">
        <CutFiles job={job.id} part={layer.part} />
      </p>
    </div>
  );
}

const Way = ({ says, how }: { says: string; how: string }) => (
  <span className="way">
    <strong>{says}</strong>
    <span>{how}</span>
  </span>
);

/** Nobody knows a number, or two: the bench card says what to do. */
function NoNumber({ camps, ...props }: StepProps & { camps: boolean }) {
  const t = words.jobSheet.cut;
  return (
    <>
      <p className="lede">
        {camps ? t.camps : t.noNumber}{' '}
        {!camps && <Link to={`/coupons/new?vinyl=${props.layer.vinyl.id}&job=${props.job.id}`}>{t.guess.test}</Link>}{' '}
        <Link to={`/vinyls/${props.layer.vinyl.id}`}>{t.card}</Link>
      </p>
      <OwnNumber {...props} open />
    </>
  );
}
