import { formatSetting, sayStrength, strengthAxis } from '#core/controls/index.ts';
import type { PackCardView, PackView } from '#work/packs/look.ts';
import { isolate } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import { Link } from 'react-router';

/** The cards the pack brought. */
export function WhatCame({ seen }: { seen: PackView }) {
  return (
    <ul className="rows above-32">
      {seen.brought.map((card) => (
        <li key={card.id}>
          <Link className="row row-pack" to={`/cards/${card.id}`}>
            <Shown card={{ ...card, key: card.id }} />
          </Link>
        </li>
      ))}
    </ul>
  );
}

export function Shown({
  card,
}: {
  card: Pick<PackCardView, 'vinyl' | 'model' | 'setting' | 'author'> & { key: string };
}) {
  const axis = strengthAxis(card.model);
  const vinyl = { ...card.vinyl, colour: { name: card.vinyl.colour } };
  const others = formatSetting(card.model, card.setting).slice(1);
  return (
    <>
      <Swatch type={card.vinyl.type} hex={card.vinyl.hex} />
      <div>
        <div className="row-name">{vinylName(vinyl)}</div>
        <div className="quiet small">
          {isolate(card.author)} · {isolate(card.model.name)}
        </div>
      </div>
      <div>
        <strong>{isolate(sayStrength(axis, card.setting.steps[axis.key]!))}</strong>
        <div className="quiet small">{others.map((p) => `${p.word} ${p.value}`).join(', ')}</div>
      </div>
    </>
  );
}
