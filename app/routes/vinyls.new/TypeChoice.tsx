import type { FormAnswer } from '../../server/enter.server.ts';
import { Link } from 'react-router';
import { behaviourOf, vinylTypeKeys, vinylTypes, wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';

/** How a type holds: what people sort their rolls by first. */
const kindOf = Object.fromEntries(
  vinylTypeKeys.map((key) => {
    const { bond } = behaviourOf(key);
    return [key, wantedOfType(key) === 'through' ? 'other' : bond === 'heat' ? 'iron' : 'stick'];
  }),
) as Record<VinylTypeKey, 'iron' | 'stick' | 'other'>;

/** The types, each as it looks and in one line what it is; iron-on and stick-on stand apart. */
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
      {(['iron', 'stick', 'other'] as const).map((kind) => (
        <div key={kind} className="type-kind">
          <p className="quiet">{t.kinds[kind]}</p>
          <div className="types">
            {vinylTypeKeys
              .filter((key) => kindOf[key] === kind)
              .map((key) => (
                <label className="choice" key={key}>
                  <input type="radio" name="type" value={key} checked={type === key} onChange={() => setType(key)} />
                  <Swatch type={key} hex={hex} size={40} />
                  <span>
                    {vinylTypes[key].word}
                    <br />
                    <span className="quiet small">{t.typeSays[key]}</span>
                  </span>
                </label>
              ))}
          </div>
        </div>
      ))}
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
      <p className="above-8">
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
