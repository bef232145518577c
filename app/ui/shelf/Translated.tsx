import { formatPosition, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import type { Split } from '#core/answer/index.ts';
import { words } from '../../messages/index.ts';
import { isolate, loadPercent } from '../base/format.ts';
import { Section } from '../base/Section.tsx';

/** "from 9 crafters on 3 models of cutter; your cutter runs 7 % light". */
export function howTranslated(said: Pick<Translated, 'basis' | 'crafters' | 'models' | 'offset' | 'offsetSd'>): string {
  const t = words.card.how;
  const from = said.basis === 'type' ? t.type : t.from(said.crafters, said.models);
  const percent = loadPercent(Math.abs(said.offset));
  const sure = Math.abs(said.offset) > 0.8 * said.offsetSd && percent >= 1;
  const own =
    said.basis !== 'vinyl and cutter'
      ? t.unknown
      : !sure
        ? t.even
        : said.offset > 0
          ? t.heavy(percent)
          : t.light(percent);
  return `${from}; ${own}.`;
}

/** Where what is shared falls into two: both, each with its number here, instead of a middle that suits nobody. */
export function SplitNotice({ split, model }: { split: Split; model: CutterModel | undefined }) {
  const t = words.card.split;
  const axis = model && strengthAxis(model);
  return (
    <Section id="split" title={t.title} className="split" data-testid="split">
      <p>{t.says[split.by]}</p>
      <ul className="camps">
        {split.camps.map((c, i) => (
          <li key={i}>
            {axis && c.number !== undefined && (
              <span className="camp-number" data-testid="camp-number">
                {formatPosition(axis, c.number)} <span className="quiet small">{t.onYours}</span>
              </span>
            )}
            <span>
              <strong>{t.camp(c.people)}</strong>
              {c.values.length > 0 && ` · ${c.values.map(isolate).join(', ')}`}
              {c.here && <span className="tag">{t.yours}</span>}
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}
