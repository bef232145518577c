import { peels, saySeconds, type Beside } from '#core/vinyls/index.ts';
import type { LeafletView } from '#work/answer/leaflet.ts';
import { words } from '../../messages/index.ts';
import { day, isolate } from '../base/format.ts';
import { useTemperatureUnit, useZone } from '../people/usePerson.ts';
import { Folded } from '../base/Folded.tsx';
import { WriteForm } from '../base/WriteForm.tsx';
import type { FormAnswer } from '../../server/enter.server.ts';
import { LeafletForm } from './LeafletForm.tsx';
import { heatInBoth } from '#core/units/index.ts';

/** What the maker says of a vinyl, beside what crafters here do: a source of its own, never mixed with theirs. */
export function LeafletBox({
  vinyl,
  view,
  peel,
  colour,
  answer,
}: {
  vinyl: string;
  view: LeafletView | undefined;
  /** How this person said they peel it. */
  peel: string | undefined;
  colour: string | undefined;
  answer: FormAnswer | undefined;
}) {
  const t = words.leaflet;
  const unit = useTemperatureUnit();
  const zone = useZone();
  const heat = (mc: number) => heatInBoth(mc, unit)[0];
  const told = <T,>(beside: Beside<T> | undefined, of: string, say: (v: T) => string) =>
    beside &&
    (beside.contradicts ? (
      <li className="contradicts">{t.but(of, beside.most!.n, beside.voices, say(beside.most!.value))}</li>
    ) : beside.voices > 0 ? (
      <li className="quiet">{t.agree(of, beside.alike, beside.voices)}</li>
    ) : null);
  const { leaflet, beside } = view ?? {};
  return (
    <section className="leaflet" aria-labelledby="leaflet" data-testid="leaflet">
      <h3 id="leaflet">{t.title}</h3>
      {leaflet && beside ? (
        <>
          <p className="leaflet-says">
            {[
              leaflet.heat !== undefined && heatInBoth(leaflet.heat, unit).join(' / '),
              leaflet.seconds && saySeconds(leaflet.seconds),
              leaflet.pressure && t.pressure(leaflet.pressure),
              leaflet.peel && t.peel(leaflet.peel),
              leaflet.blade !== undefined && t.blade(leaflet.blade),
              leaflet.passes !== undefined && t.passes(leaflet.passes),
              leaflet.wash && t.washed(leaflet.wash),
            ]
              .filter(Boolean)
              .join(', ')}
            {leaflet.cut && <span style={{ display: 'block' }}>{isolate(leaflet.cut)}</span>}
          </p>
          <ul className="leaflet-beside">
            {told(beside.peel, leaflet.peel ? t.peel(leaflet.peel) : '', (v) => t.peels[v])}
            {told(beside.heat, leaflet.heat === undefined ? '' : heat(leaflet.heat), (v) => t.press(heat(v)))}
            {told(beside.seconds, leaflet.seconds ? saySeconds(leaflet.seconds) : '', (v) =>
              t.press(saySeconds([v, v])),
            )}
            {told(beside.pressure, leaflet.pressure ? t.pressure(leaflet.pressure) : '', (v) => t.press(t.pressure(v)))}
            {told(beside.blade, leaflet.blade === undefined ? '' : t.blade(leaflet.blade), t.take.blade)}
            {told(beside.passes, leaflet.passes === undefined ? '' : t.passes(leaflet.passes), t.take.passes)}
          </ul>
          <p className="quiet small">
            {[
              leaflet.source && isolate(leaflet.source),
              t.copied(isolate(view!.who), day(view!.at, zone)),
              view!.home && words.card.from(isolate(view!.home)),
            ]
              .filter(Boolean)
              .join(' · ')}
          </p>
        </>
      ) : (
        <p className="quiet">{t.none}</p>
      )}
      <Folded
        summary={leaflet ? t.again : t.copy}
        open={answer !== undefined}
        className="above-10"
        testId="copy-leaflet"
      >
        {() => <LeafletForm vinyl={vinyl} leaflet={leaflet} answer={answer} />}
      </Folded>
      <WriteForm what="peel" preventScrollReset className="peel-form">
        {colour && <input type="hidden" name="colour" value={colour} />}
        <fieldset>
          <legend className="small">{peel ? t.yours : t.ask}</legend>
          {peels
            .filter((p) => p !== 'by the leaflet' && p !== 'lukewarm')
            .map((p) => (
              <button key={p} type="submit" name="peel" value={peel === p ? '' : p} aria-pressed={peel === p}>
                {p}
              </button>
            ))}
        </fieldset>
      </WriteForm>
    </section>
  );
}
