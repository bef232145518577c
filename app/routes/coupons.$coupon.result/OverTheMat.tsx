import type { CutterEvenness } from '#work/coupons/evenness.ts';
import { words } from '../../messages/index.ts';
import { MatMap } from '../../ui/workshop/MatMap.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** How evenly the cutter presses over its mat. */
export function OverTheMat({ evenness }: { evenness: CutterEvenness | undefined }) {
  return (
    <Section className="above-40" id="even" title={words.even.title}>
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
    </Section>
  );
}
