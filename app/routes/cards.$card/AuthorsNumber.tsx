import { formatSetting, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import type { CardView } from '#work/shelf/view.ts';
import { words } from '../../messages/index.ts';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { capitalise } from '#core/units/index.ts';

/** What the author sets, how sure it is, and under which terms it is shared. */
export function AuthorsNumber({ card }: { card: CardView }) {
  const t = words.card;
  const { content, here } = card;
  const axis = strengthAxis(content.model);
  const position = content.controls.steps[axis.key]!;
  const dots = content.evidence.map((e) => ({ position: e.setting.steps[axis.key]!, grade: e.grade }));
  const domain = stripDomain(axis, [content.result.summary], [...dots.map((d) => d.position), position]);
  const rest = formatSetting(content.model, content.controls).filter((p) => p.key !== axis.key);
  const agreeing = card.found.filter((f) => f.grade === card.wanted).length;
  const standing = card.proof?.standing ?? content.standing;
  // The number to take is the one for the cutter on the bench: where there is one, the author's stands back.
  const hereKnown = here.kind === 'same model' || (here.kind === 'other model' && here.translated !== undefined);
  return (
    <Section id="cut" title={t.on(content.model.name)} className={hereKnown ? 'card-cut less' : 'card-cut'}>
      <ToSet axis={axis} position={position} testId="card-sets" />
      <div style={{ margin: '20px 0 12px' }}>
        <WindowStrip axis={axis} result={content.result} domain={domain} dots={dots} mark={position} scale />
      </div>
      <p>{content.result.sentence}</p>
      {card.proof && (
        <p className="proof" data-testid="proof">
          {capitalise(card.proof.sentence)}.
        </p>
      )}
      <dl className="facts above-20">
        <ControlFacts parts={rest} />
        <dt>{t.wanted}</dt>
        <dd>{card.wanted === 'clean' ? words.vinyl.clean : words.vinyl.through}</dd>
        <dt>{t.standing}</dt>
        <dd>
          <strong data-testid="standing">{words.cardStanding[standing]}</strong>{' '}
          <span>{words.from.cells(content.result.evidence.cells, content.result.evidence.coupons)}</span>
        </dd>
        <dt>{t.others}</dt>
        <dd>{card.found.length === 0 ? t.nobody : t.agree(agreeing, card.found.length)}</dd>
        <dt>{t.licence}</dt>
        <dd>{words.licences[card.licence].name}</dd>
      </dl>
      {content.conditions && <p className="said above-20">{content.conditions}</p>}
    </Section>
  );
}
