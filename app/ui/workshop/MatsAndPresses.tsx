import Button from '@mui/material/Button';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { SourceKind } from '#core/press/index.ts';
import type { Mat, Press } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Field, FormNotice, SelectField } from '../base/Field.tsx';
import { bothSizes, isolate, percent, typedLength } from '../base/format.ts';
import { Link } from 'react-router';
import { PutRightLink } from '../base/PutRightLink.tsx';
import { useLengthUnit, useNumberStyle } from '../people/usePerson.ts';
import { WriteForm } from '../base/WriteForm.tsx';
import { Section } from '../base/Section.tsx';
import { heatInBoth, degreesApart } from '#core/units/index.ts';

function One({ what, name, value, text }: { what: string; name: string; value: string; text: string }) {
  return (
    <WriteForm what={what}>
      <input type="hidden" name={name} value={value} />
      <Button type="submit">{text}</Button>
    </WriteForm>
  );
}

/** A form that adds a mat or a press, behind its button until somebody wants it or something in it is wrong. */
function Adding({
  what,
  text,
  had,
  answer,
  children,
}: {
  what: string;
  text: string;
  /** How many there are: with one more the form is empty again. */
  had: number;
  answer: FormAnswer | undefined;
  children: ReactNode;
}) {
  const [adding, setAdding] = useState(!!answer);
  // It is put away once there is one more, never while it may yet be refused: then it stays, with what was typed and what is wrong.
  const before = useRef(had);
  useEffect(() => {
    if (before.current !== had) setAdding(false);
    before.current = had;
  }, [had]);
  if (!adding)
    return (
      <Button className="above-12" onClick={() => setAdding(true)}>
        {text}
      </Button>
    );
  return (
    <WriteForm what={what} className="form" noValidate key={had}>
      <FormNotice answer={answer} text={words.errors.form} />
      <div className="pair">{children}</div>
      <div>
        <Button type="submit" variant="contained">
          {text}
        </Button>
      </div>
    </WriteForm>
  );
}

/** How wide and how long a mat or a press is. @param side as it is, or of a usual one */
function Sides({
  of,
  answer,
  side,
  onSaid,
}: {
  of: string;
  answer: FormAnswer | undefined;
  side: { widthUm: number; lengthUm: number } | { mm: readonly [string, string]; in: readonly [string, string] };
  onSaid?: () => void;
}) {
  const t = words.workshop;
  const unit = useLengthUnit();
  return (['width', 'length'] as const).map((name, i) => (
    <Field
      key={name}
      name={name}
      id={`${of}-${name}`}
      label={t[name](unit)}
      answer={answer}
      onInput={onSaid}
      initial={'mm' in side ? side[unit][i]! : typedLength(side[`${name}Um`], unit)}
    />
  ));
}

type Answered = { answer: FormAnswer | undefined };

/** What is said of a mat. @param mat one that is there already */
export function MatFields({
  answer,
  mat,
}: Answered & { mat?: { name: string; grip: string; widthUm: number; lengthUm: number; loads: number } }) {
  const t = words.workshop;
  return (
    <>
      <Field name="name" id="mat-name" label={t.matName} answer={answer} initial={mat?.name ?? ''} autoComplete="off" />
      <SelectField
        name="grip"
        label={t.grip}
        answer={answer}
        initial={mat?.grip ?? 'ordinary'}
        options={Object.entries(t.grips)}
      />
      <Sides of="mat" answer={answer} side={mat ?? { mm: ['305', '610'], in: ['12', '24'] }} />
      <Field name="loads" label={t.loads} answer={answer} initial={String(mat?.loads ?? 0)} inputMode="numeric" />
    </>
  );
}

/** How large they usually are. Common practice, no source. */
const usualSides: Record<SourceKind, { mm: readonly [string, string]; in: readonly [string, string] }> = {
  plate: { mm: ['380', '380'], in: ['15', '15'] },
  'hand press': { mm: ['230', '230'], in: ['9', '9'] },
  'cap press': { mm: ['150', '75'], in: ['6', '3'] },
  'small press': { mm: ['105', '60'], in: ['4', '2.4'] },
  iron: { mm: ['115', '200'], in: ['4.5', '8'] },
};

/** What is said of a press. @param press one that is there already */
export function PressFields({ answer, press }: Answered & { press?: Omit<Press, 'id'> }) {
  const t = words.workshop;
  const shows = press?.shows ?? 'C';
  const [sidesOf, setSidesOf] = useState(answer?.values.kind ?? press?.kind ?? 'plate');
  // Until somebody says its sides, they are those of its kind.
  const [measured, setMeasured] = useState(press !== undefined || answer !== undefined);
  const usual = usualSides[sidesOf as SourceKind] ?? usualSides.plate;
  return (
    <>
      <Field
        name="name"
        id="press-name"
        label={t.pressName}
        answer={answer}
        initial={press?.name ?? ''}
        autoComplete="off"
      />
      <SelectField
        name="kind"
        label={t.pressKind}
        answer={answer}
        initial={press?.kind ?? 'plate'}
        options={Object.entries(t.pressKinds)}
        onChange={(e) => {
          if (!measured) setSidesOf(e.target.value);
        }}
      />
      <Sides key={sidesOf} of="press" answer={answer} side={press ?? usual} onSaid={() => setMeasured(true)} />
      <SelectField
        name="shows"
        label={t.shows}
        answer={answer}
        initial={shows}
        options={[
          ['C', '°C'],
          ['F', '°F'],
        ]}
      />
      <Field
        name="hottest"
        label={t.hottest}
        answer={answer}
        initial={press ? heatInBoth(press.hottest, shows)[0].replace(/ .*/, '') : '200'}
        inputMode="numeric"
      />
      <Field
        name="off"
        label={t.off}
        answer={answer}
        initial={String(press ? offDegrees(press) : 0)}
        inputMode="decimal"
      />
    </>
  );
}

/** How much too little a press shows, whole degrees of its own scale. */
const offDegrees = (p: { off: number; shows: 'C' | 'F' }): number => Math.round(degreesApart(p.off, p.shows));

/** Mats with what is left of their grip, and the one that cuts are counted on. */
export function Mats({ mats, answer }: { mats: readonly Mat[]; answer: FormAnswer | undefined }) {
  const t = words.workshop;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  return (
    <Section className="above-40" id="mats" title={t.mats}>
      <ul className="rows">
        {mats.map((m) => (
          <li key={m.id} className="row row-thing">
            <div>
              <div className="row-name">{isolate(m.name)}</div>
              <div className="quiet">
                {t.grips[m.grip]} · {bothSizes(m.widthUm, m.lengthUm, unit, style)[0]}
              </div>
            </div>
            <div>
              {t.gripLeft(percent(m.left.share))}
              {t.matAdvice[m.left.advice] && <strong> · {t.matAdvice[m.left.advice]}</strong>}
              <div className="quiet small">
                {t.loadCount(m.loads)}
                {m.inUse && ` · ${t.inUse}`}
              </div>
            </div>
            <div className="row-actions">
              <One what="wash" name="mat" value={m.id} text={t.wash} />
              {!m.inUse && <One what="lay" name="mat" value={m.id} text={t.lay} />}
              <PutRightLink kind="mat" id={m.id} />
            </div>
          </li>
        ))}
      </ul>
      <Adding what="mat" text={t.addMat} had={mats.length} answer={answer}>
        <MatFields answer={answer} />
      </Adding>
    </Section>
  );
}

/** Presses and irons with how hot they go and what they really are at. */
export function Presses({ presses, answer }: { presses: readonly Press[]; answer: FormAnswer | undefined }) {
  const t = words.workshop;
  const unit = useLengthUnit();
  const style = useNumberStyle();
  const off = (p: Press) => `${p.off > 0 ? '+' : '−'}${Math.abs(offDegrees(p))} °${p.shows}`;
  return (
    <Section className="above-40" id="presses" title={t.presses}>
      <ul className="rows">
        {presses.map((p) => (
          <li key={p.id} className="row row-thing">
            <div>
              <div className="row-name">{isolate(p.name)}</div>
              <div className="quiet">
                {t.pressKinds[p.kind as keyof typeof t.pressKinds]} · {bothSizes(p.widthUm, p.lengthUm, unit, style)[0]}
              </div>
            </div>
            <div>
              {heatInBoth(p.hottest, p.shows).join(' · ')}
              {p.off !== 0 && <div className="quiet small">{t.offSays(off(p))}</div>}
            </div>
            <div className="row-actions">
              <Link to={`/workshop/presses/${p.id}`}>{t.measure}</Link>
              <PutRightLink kind="press" id={p.id} />
            </div>
          </li>
        ))}
      </ul>
      <Adding what="press" text={t.addPress} had={presses.length} answer={answer}>
        <PressFields answer={answer} />
      </Adding>
    </Section>
  );
}
