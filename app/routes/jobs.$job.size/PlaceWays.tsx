import Button from '@mui/material/Button';
import { placeTopics, shapes, type PlaceHabits, type ShapeKey } from '#core/place/index.ts';
import { words } from '../../messages/index.ts';
import { SelectField } from '../../ui/base/Field.tsx';
import { Folded } from '../../ui/base/Folded.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Where crafters go several ways: one is followed from now on, and the design in hand is placed so. */
export function PlaceWays({ shape, habits }: { shape: ShapeKey; habits: PlaceHabits }) {
  const t = words.jobSize.ways;
  const { ways } = shapes[shape];
  if (!ways) return null;
  return (
    <Folded summary={t.title} className="above-24" testId="place-ways">
      {() =>
        placeTopics.map((topic) => (
          <WriteForm key={`${topic} ${habits[topic]}`} what="habit" className="line-up above-14" preventScrollReset>
            <input type="hidden" name="topic" value={topic} />
            <input type="hidden" name="shape" value={shape} />
            <SelectField
              name="way"
              label={t[topic]}
              answer={undefined}
              initial={habits[topic] ?? ways[topic]?.[0]?.key ?? ''}
              options={(ways[topic] ?? []).map((w) => [w.key, w.says] as const)}
            />
            <Button type="submit" variant="outlined">
              {t.do}
            </Button>
          </WriteForm>
        ))
      }
    </Folded>
  );
}
