import { evenLength, shapes, usualSpot, usualWidth } from '#core/place/index.ts';
import type { Person } from '#work/people/person.ts';
import { artworkOf } from './artwork.ts';
import { habitsIn, setHabit } from './habits.ts';
import { revise } from './jobs.ts';

/** Takes on a way to place designs, and places the one in hand so. */
export async function followPlace(person: Person, jobId: string, form: FormData): Promise<void> {
  await setHabit(person, form);
  const topic = form.get('topic');
  await revise(person, jobId, async (plan) => {
    const { design, blank } = plan;
    if (!design) return plan;
    const { place } = await habitsIn(person, blank.shape);
    const unit = person.length_unit;
    if (topic === 'drop') {
      const spot = usualSpot(shapes[blank.shape], place);
      return { ...plan, design: { ...design, spot: { ...spot, down: evenLength(spot.down, unit) } } };
    }
    const { width, height } = await artworkOf(design.artwork);
    const wide = evenLength(usualWidth(shapes[blank.shape], blank, blank, { width, height }, place), unit);
    return { ...plan, design: { ...design, widthUm: Math.max(1_000, wide) } };
  });
}
