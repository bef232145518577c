import { saySeconds, type Behaviour, type PressWay } from '#core/vinyls/index.ts';
import type { SchoolVoice } from '#work/vinyls/schools.ts';
import { words } from '../../messages/index.ts';
import type { Press } from '#work/workshop/workshop.ts';
import { bothHeats, isolate } from '../base/format.ts';
import { Schools } from './Schools.tsx';
import { useTemperatureUnit } from '../people/usePerson.ts';

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

/** How a vinyl is pressed: the way that is followed, or the usual one, large; the others a tap away, both heats where a mistake would burn. */
export function PressSteps({
  behaviour: { press, carry },
  voices,
  colour,
  presses = [],
}: {
  behaviour: Behaviour;
  voices: readonly SchoolVoice[];
  colour: string | undefined;
  /** One's own presses: what each has to show for the heat to be right. */
  presses?: readonly Pick<Press, 'name' | 'shows' | 'off' | 'hottest'>[];
}) {
  const t = words.press;
  const followed = Number(voices.find((v) => v.mine)?.way ?? 1) - 1;
  const first = press[followed] ?? press[0];
  if (!first) return <p>{carry === 'tape' ? t.notPressed : t.none}</p>;
  return (
    <>
      <Way way={first} large />
      {first.heat !== undefined &&
        presses.map((p) => (
          <p key={p.name} style={{ marginTop: 10 }}>
            {p.hottest < first.heat!
              ? t.tooCool(isolate(p.name))
              : t.on(isolate(p.name), bothHeats(first.heat! - p.off, p.shows)[0])}
          </p>
        ))}
      <Schools
        topic="press"
        voices={voices}
        colour={colour}
        ways={press.map((way, i) => ({
          key: String(i + 1),
          title: i === 0 ? `${words.schools.way(1)}, ${words.schools.usual}` : words.schools.way(i + 1),
          shown: <Way way={way} large={false} />,
        }))}
      />
      <p className="quiet small" style={{ marginTop: 14 }}>
        {t.source}
      </p>
    </>
  );
}
