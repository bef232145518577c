import { behaviourOf, saySeconds, type PressWay, type VinylTypeKey } from '#core/vinyls/index.ts';
import { words } from '../messages/index.ts';
import { bothHeats } from './format.ts';
import { useTemperatureUnit } from './usePerson.ts';

function Way({ way, large }: { way: PressWay; large: boolean }) {
  const unit = useTemperatureUnit();
  const t = words.press;
  const heat = way.heat === undefined ? undefined : bothHeats(way.heat, unit);
  return (
    <>
      {large && (
        <p className="press-number">
          {heat ? (
            <>
              {heat[0]} <span className="quiet">{heat[1]}</span>
            </>
          ) : (
            <span style={{ fontSize: '0.55em' }}>{t.noHeat}</span>
          )}
        </p>
      )}
      {large && <p className="press-number less">{saySeconds(way.seconds)}</p>}
      {!large && (
        <p style={{ fontWeight: 700 }}>
          {heat ? `${heat[0]} (${heat[1]}), ` : ''}
          {saySeconds(way.seconds)}
        </p>
      )}
      <dl className="facts" style={{ marginTop: large ? 20 : 8 }}>
        {way.pressure && (
          <>
            <dt>{t.pressure}</dt>
            <dd>{way.pressure}</dd>
          </>
        )}
        <dt>{t.cover}</dt>
        <dd>{way.cover}</dd>
        <dt>{t.peel}</dt>
        <dd>{way.peel}</dd>
      </dl>
      {way.then && <p style={{ marginTop: 10 }}>{way.then}</p>}
    </>
  );
}

/** How this type is pressed: the usual way large, another one a tap away, both heats where a mistake would burn. */
export function PressSteps({ type }: { type: VinylTypeKey }) {
  const { press, carry } = behaviourOf(type);
  const t = words.press;
  const [first, ...others] = press;
  if (!first) return <p>{carry === 'tape' ? t.notPressed : t.none}</p>;
  return (
    <>
      <Way way={first} large />
      {others.map((way, i) => (
        <details key={i}>
          <summary>{t.another}</summary>
          <Way way={way} large={false} />
        </details>
      ))}
      <p className="quiet small" style={{ marginTop: 14 }}>
        {t.source}
      </p>
    </>
  );
}
