import { fullWays, otherPresses, saySeconds, type Behaviour, type PressWay } from '#core/vinyls/index.ts';
import type { PressAnswer } from '#core/press/index.ts';
import type { ReactNode } from 'react';
import type { SchoolVoice } from '#work/vinyls/schools.ts';
import { words } from '../../messages/index.ts';
import type { Press } from '#work/workshop/workshop.ts';
import { PressTimer } from '../base/PressTimer.tsx';
import { heatOf } from '../base/format.ts';
import { OwnPresses } from '../workshop/OwnPresses.tsx';
import { sayFollows, sayTrust } from './sayPress.ts';
import { Schools } from './Schools.tsx';
import { useTemperatureUnit } from '../people/usePerson.ts';
import { capitalise } from '#core/units/index.ts';

function Way({ way, large, trust }: { way: PressWay; large: boolean; trust?: ReactNode }) {
  const unit = useTemperatureUnit();
  const t = words.press;
  const heat = heatOf(way, unit);
  return (
    <>
      {large && (
        <p className="press-number">
          {heat ? (
            <>
              {heat[0]} <span className="quiet">{heat[1]}</span>
            </>
          ) : (
            <span className="by-leaflet">{t.noHeat}</span>
          )}
        </p>
      )}
      {large && <p className={`press-number less ${way.seconds ? '' : 'by-leaflet'}`}>{saySeconds(way.seconds)}</p>}
      {!large && (
        <p style={{ fontWeight: 700 }}>
          {heat ? `${heat[0]} (${heat[1]}), ` : ''}
          {saySeconds(way.seconds)}
        </p>
      )}
      {trust}
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
      {sayFollows(way, unit).map((line) => (
        <p key={line} className="above-10">
          {line}
        </p>
      ))}
      {large && way.seconds && <PressTimer seconds={way.seconds[1]} />}
    </>
  );
}

/** Whose figures they are, and where they hold: one line, right under the number. */
function Trust({ answer: { said, overSurface }, on }: { answer: PressAnswer; on: string | undefined }) {
  return (
    <>
      {said && (
        <p className="press-source" data-testid="press-source">
          <strong>{sayTrust(said)}</strong> <span className="quiet">{on ?? words.pressSource.onCloth}</span>
        </p>
      )}
      {overSurface && <p className="notice bad">{overSurface}</p>}
    </>
  );
}

/** A press that is not the press: what it is for, in a line. */
function OtherPress({ way }: { way: PressWay }) {
  const unit = useTemperatureUnit();
  const t = words.press;
  const heat = heatOf(way, unit);
  return (
    <p className="other-press">
      <strong>{way.word ? t.iron(way.word) : t.purposes[way.purpose as keyof typeof t.purposes]}:</strong>{' '}
      {[
        heat && `${heat[0]} (${heat[1]})`,
        way.seconds && saySeconds(way.seconds),
        way.pressure && words.leaflet.pressure(way.pressure),
        words.leaflet.peel(way.peel),
      ]
        .filter(Boolean)
        .join(', ')}
      {'. '}
      {sayFollows(way, unit).join(' ')}
    </p>
  );
}

/**
 * How a vinyl is pressed: the full press that is followed, or the usual one, large; further ways a tap away; a tack and the like on
 * smaller lines of their own. Both heats, where a mistake would burn.
 */
export function PressSteps({
  behaviour: { press, bond, because },
  answer,
  on,
  voices,
  colour,
  presses = [],
}: {
  behaviour: Behaviour;
  /** How it is pressed here, by one source. */
  answer: PressAnswer;
  /** Where: a surface, where one is known. */
  on?: string | undefined;
  voices: readonly SchoolVoice[];
  colour: string | undefined;
  /** One's own presses: what each has to show for the heat to be right. */
  presses?: readonly Pick<Press, 'name' | 'shows' | 'off' | 'hottest'>[];
}) {
  const t = words.press;
  const first = answer.said?.way;
  const full = fullWays(press);
  if (bond === 'sticks') return <p>{t.notPressed}</p>;
  return (
    <>
      {first ? (
        <Way way={first} large trust={<Trust answer={answer} on={on} />} />
      ) : (
        <p className="press-number by-leaflet">{bond === 'glue' ? t.none : t.fullByLeaflet}</p>
      )}
      {otherPresses(press).map((way) => (
        <OtherPress key={`${way.key} ${way.purpose} ${way.then}`} way={way} />
      ))}
      {first?.heat !== undefined && <OwnPresses heat={first.heat} presses={presses} />}
      <Schools
        topic="press"
        voices={voices}
        colour={colour}
        ways={full.map(({ way, key }, i) => ({
          key,
          title: i === 0 ? `${words.schools.way(1)}, ${words.schools.usual}` : words.schools.way(i + 1),
          shown: <Way way={way} large={false} />,
        }))}
      />
      {(!answer.said || answer.said.source === 'type') && (
        <p className="quiet small above-14">
          {capitalise(because)}. {t.source}
        </p>
      )}
    </>
  );
}
