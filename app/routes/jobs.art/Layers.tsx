import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

type Art = {
  layers: { id: string; hex: string; pieces: number; holes: number }[];
  left: { path: string; hex: string }[];
};

/** The layers of a drawing: left out, brought back, joined, moved, one tap each. */
export function Layers({ art, seen, answer }: { art: Art; seen: string; answer: FormAnswer | undefined }) {
  const t = words.jobArt;
  const act = (name: string, layer: string, label: string) => (
    <WriteForm what="layers" seen={seen} key={name}>
      <input type="hidden" name="act" value={name} />
      <input type="hidden" name="layer" value={layer} />
      <Button type="submit" variant="text">
        {label}
      </Button>
    </WriteForm>
  );
  return (
    <>
      <h2 className="section-word">{t.layers}</h2>
      {answer?.values.what === 'layers' && <FormNotice answer={answer} text={words.errors.form} />}
      <ol className="layers">
        {art.layers.map((l, i) => (
          <li key={l.id}>
            <span className="dot-colour" style={{ background: l.hex }} aria-hidden="true" />
            <span>{t.pieces(l.pieces, l.holes)}</span>
            <span className="layer-acts">
              {i < art.layers.length - 1 && act('up', l.id, t.up)}
              {i > 0 && act('down', l.id, t.down)}
              {art.layers.length > 1 && act('leave', l.id, t.leave)}
              {art.layers.length > 1 && (
                <Merge
                  seen={seen}
                  layer={l.id}
                  others={art.layers.flatMap((o, n) => (o.id === l.id ? [] : [[o.id, n + 1] as const]))}
                />
              )}
            </span>
          </li>
        ))}
      </ol>
      {art.layers.length === 1 && art.left.length === 0 && <p className="quiet">{t.one}</p>}
      {art.left.length > 0 && (
        <ul className="layers">
          {art.left.map((l) => (
            <li key={l.path}>
              <span className="dot-colour" style={{ background: l.hex }} aria-hidden="true" />
              <span className="quiet">{t.left}</span>
              <span className="layer-acts">{act('back', l.path, t.back)}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** Joins a layer with another one: one vinyl shows both. */
function Merge({
  layer,
  seen,
  others,
}: {
  layer: string;
  seen: string;
  others: readonly (readonly [string, number])[];
}) {
  const t = words.jobArt;
  return (
    <WriteForm what="layers" seen={seen} className="merge">
      <input type="hidden" name="act" value="merge" />
      <input type="hidden" name="layer" value={layer} />
      <label>
        {t.merge}{' '}
        <select name="into">
          {others.map(([id, n]) => (
            <option key={id} value={id}>
              {n}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" variant="text">
        {t.mergeDo}
      </Button>
    </WriteForm>
  );
}
