import type { FormAnswer } from '../../server/enter.server.ts';
import { Link } from 'react-router';
import { vinylTypeKeys, vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';

/** The types, each as it looks. */
export function TypeChoice({
  loaderData,
  type,
  setType,
  hex,
  actionData,
}: {
  loaderData: { own: readonly { id: string; word: string; parent: VinylTypeKey }[] };
  type: string;
  setType: (type: string) => void;
  hex: string;
  actionData: FormAnswer | undefined;
}) {
  const t = words.newVinyl;
  return (
    <fieldset aria-describedby={actionData?.fields.type ? 'type-problem' : undefined}>
      <legend>{t.type}</legend>
      <div className="types">
        {vinylTypeKeys.map((key) => (
          <label className="choice" key={key}>
            <input type="radio" name="type" value={key} checked={type === key} onChange={() => setType(key)} />
            <Swatch type={key} hex={hex} size={40} />
            <span>{vinylTypes[key].word}</span>
          </label>
        ))}
      </div>
      {loaderData.own.length > 0 && <p style={{ margin: '12px 0 8px' }}>{t.ownTypes}</p>}
      <div className="types">
        {loaderData.own.map((o) => (
          <label className="choice" key={o.id}>
            <input
              type="radio"
              name="type"
              value={`own:${o.id}`}
              checked={type === `own:${o.id}`}
              onChange={() => setType(`own:${o.id}`)}
            />
            <Swatch type={o.parent} hex={hex} size={40} />
            <span>{isolate(o.word)}</span>
          </label>
        ))}
      </div>
      <p style={{ marginTop: 8 }}>
        <Link to="/types/new">{t.ownType}</Link>
      </p>
      {actionData?.fields.type && (
        <p className="error-text" id="type-problem">
          {actionData.fields.type}
        </p>
      )}
    </fieldset>
  );
}
