import type { CutterEvenness } from '#work/coupons/evenness.ts';
import { words } from '../../messages/index.ts';
import { MatMap } from '../../ui/workshop/MatMap.tsx';

/** How evenly the cutter presses over its mat. */
export function OverTheMat({ evenness }: { evenness: CutterEvenness | undefined }) {
  return (
    <section style={{ marginTop: 40 }} aria-labelledby="even">
      <h2 className="section-word" id="even">
        {words.even.title}
      </h2>
      {evenness && (
        <div className="mat-reading">
          <MatMap evenness={evenness} />
          <div>
            <p className="lede" data-testid="evenness">
              {words.even.said(evenness)}
            </p>
            <p className="quiet">{words.even.legend}</p>
            <p className="quiet">{words.even.again}</p>
          </div>
        </div>
      )}
    </section>
  );
}
