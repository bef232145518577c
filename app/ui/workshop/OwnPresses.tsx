import type { Press } from '#work/workshop/workshop.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../base/format.ts';
import { heatInBoth } from '#core/units/index.ts';

type Props = {
  /** What it is to be, m°C. */
  heat: number;
  /** One's own presses that show something else than they are. */
  presses: readonly Pick<Press, 'name' | 'shows' | 'off' | 'hottest'>[];
};

/** What each press of one's own has to show for a heat to be right. */
export function OwnPresses({ heat, presses }: Props) {
  const t = words.press;
  return presses.map((p) => (
    <p className="above-10" key={p.name} data-testid="own-press">
      {p.hottest < heat ? t.tooCool(isolate(p.name)) : t.on(isolate(p.name), heatInBoth(heat - p.off, p.shows)[0])}
    </p>
  ));
}
