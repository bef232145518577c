import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { formatPosition, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { timesInHundred } from '#core/window/index.ts';
import type { CardView } from '#work/shelf/view.ts';
import type { TranslatedOnBench } from '#work/shelf/onBench.ts';
import type { Answer } from '#core/answer/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { Field } from '../../ui/base/Field.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { howTranslated } from '../../ui/shelf/Translated.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/**
 * What to set here: the one number of the vinyl; where crafters fall into two camps, that of the camp this card belongs to.
 * @param number the card's own number in the terms of this cutter
 */
export function numberHere(answer: Answer | undefined, number: number | undefined): number | undefined {
  if (answer?.camps && number !== undefined)
    return answer.camps.reduce((a, b) => (Math.abs(b.number - number) < Math.abs(a.number - number) ? b : a)).number;
  return answer?.position ?? number;
}

/** The card's number on the cutter on the bench, where it comes from and how sure it is. */
export function TranslatedNumber({
  said,
  answer,
  model,
  wanted,
  cutter,
}: {
  said: TranslatedOnBench;
  answer: Answer | undefined;
  model: CutterModel;
  wanted: CardView['wanted'];
  cutter: string | undefined;
}) {
  const t = words.card;
  const axis = strengthAxis(model);
  const position = numberHere(answer, said.number)!;
  return (
    <div data-testid="translated">
      <ToSet axis={axis} position={position} testId="translated-sets" />
      <div style={{ margin: '20px 0 12px' }}>
        <WindowStrip
          axis={axis}
          result={said.shown}
          domain={stripDomain(axis, [said.shown.summary], [position, said.low, said.high])}
          mark={position}
          scale
          width={430}
        />
      </div>
      <p style={{ fontSize: '1.25rem' }} data-testid="how">
        {howTranslated(said)}
      </p>
      <p className="quiet above-8">
        {t.between(formatPosition(axis, said.low), formatPosition(axis, said.high))}{' '}
        {t.chance(timesInHundred(answer?.chance ?? said.rank.chance), wanted)}
      </p>
      {cutter && (
        <p className="above-8">
          <Link to={`/workshop/cutters/${cutter}/others`}>{t.offset}</Link>
        </p>
      )}
    </div>
  );
}

/** "I cut it": one tap for how it went, with the number it was cut with. */
export function ConfirmForm({
  model,
  start,
  cut,
  answer,
  guest,
  wanted,
}: {
  model: CutterModel;
  start: number;
  cut: string;
  answer: FormAnswer | undefined;
  guest: boolean;
  wanted: CardView['wanted'];
}) {
  const t = words.card.confirm;
  const axis = strengthAxis(model);
  const [outcome, setOutcome] = useState(answer?.values.outcome ?? '');
  if (guest)
    return (
      <div className="actions">
        <GoButton to="/account">{t.account}</GoButton>
      </div>
    );
  const options = (['worked', 'more', 'less', 'failed'] as const)
    // Of what is cut through there is no "one stop less": the lightest that falls out is looked for, and more harms nothing.
    .filter((o) => wanted === 'clean' || o !== 'less')
    .map((o) => {
      const [label, says] = t.options[o] as [string, string];
      return [o, label, o === 'worked' && wanted === 'through' ? t.throughWorked : says] as const;
    });
  return (
    <WriteForm
      what="confirm"
      className="form"
      noValidate
      data-testid="confirm"
      onChange={(event) => {
        const field = event.target as unknown as HTMLInputElement;
        if (field.name === 'outcome') setOutcome(field.value);
      }}
    >
      <input type="hidden" name="cut" value={cut} />
      <Field
        name="strength"
        label={t.number(axis.word)}
        answer={answer}
        initial={formatPosition(axis, start)}
        slotProps={{ htmlInput: { inputMode: axis.kind === 'number' ? 'numeric' : 'text' } }}
      />
      <Choices name="outcome" legend={t.how} answer={answer} initial="" options={options} />
      {outcome === 'failed' && (
        <Choices
          name="seen"
          legend={t.seen}
          answer={answer}
          initial=""
          options={gradeWords
            .filter((g) => g !== wanted)
            .map((g) => [g, words.grades[g].word, words.grades[g].says] as const)}
        />
      )}
      <Field name="said" label={t.said} answer={answer} multiline minRows={2} />
      <div>
        <Button type="submit" variant="contained">
          {t.send}
        </Button>
        <p className="legend">{t.why}</p>
      </div>
    </WriteForm>
  );
}
