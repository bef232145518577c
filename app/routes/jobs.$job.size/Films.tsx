import Button from '@mui/material/Button';
import type { Judgement } from '#core/artwork/index.ts';
import { words } from '../../messages/index.ts';
import { fromWords, standingOf } from '../../ui/answer/VinylRow.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { typeWord, vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Size } from './size.ts';

/** The layers with their vinyls: each with its own verdict, and the way to another vinyl. */
export function Films({ size, judged }: { size: Size; judged: Judgement }) {
  const t = words.jobSize;
  return (
    <section className="above-24" aria-labelledby="layers">
      <h2 id="layers" className="section-word">
        {t.layers}
      </h2>
      <ul className="judged">
        {size.layers.map(({ id, path, hex, vinyl, row, why }) => {
          const faults = judged.layers.find((j) => j.layer === path)?.faults.length ?? 0;
          return (
            <li key={id}>
              {vinyl ? (
                <Swatch type={vinyl.type} hex={vinylHex(vinyl)} size={44} />
              ) : (
                <span className="dot-colour" style={{ background: hex }} />
              )}
              <div>
                <strong>{vinyl ? vinylTitle(vinyl) : ''}</strong>
                <div className="quiet">
                  {[
                    vinyl && typeWord(vinyl),
                    row && (row.standing ? words.standing[standingOf(row)] : fromWords(row)),
                    // Its colour is seen; what is in stock, and what speaks against it, is not.
                    ...why.filter((w) => !w.endsWith('colour')).map((w) => words.jobVinyls.words[w]),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </div>
              </div>
              <div className="judged-side">
                {faults === 0 ? (
                  <span className="good">✓ {t.fine}</span>
                ) : (
                  <span className="fault" data-testid="fault">
                    {t.places(faults)}
                  </span>
                )}
                <Button type="submit" name="then" value={`film ${id}`} variant="text" className="judged-other">
                  {t.otherVinyl}
                </Button>
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
