import type { PackView } from '#work/packs/look.ts';
import { Link } from 'react-router';
import { Shown } from './route.tsx';

/** The cards the pack brought. */
export function WhatCame({ seen }: { seen: PackView }) {
  return (
    <ul className="rows" style={{ marginTop: 32 }}>
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
