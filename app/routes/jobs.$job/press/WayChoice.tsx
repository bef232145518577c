import Button from '@mui/material/Button';
import { words } from '../../../messages/index.ts';
import { SelectField } from '../../../ui/base/Field.tsx';
import { Folded } from '../../../ui/base/Folded.tsx';
import { isolate } from '../../../ui/base/format.ts';
import { WriteForm } from '../../../ui/base/WriteForm.tsx';
import type { SheetStep } from '#core/job/index.ts';
import type { Job } from '../useSheet.ts';

/** Crafters press a vinyl in several ways: another one is chosen here, without leaving the job. One’s own recipe stands before any. */
export function WayChoice({ job, step, layers }: { job: Job; step: SheetStep; layers: readonly string[] }) {
  const t = words.pressPlan;
  const of = job.layers.filter((l) => layers.includes(l.id) && l.ways.length > 0);
  return of.map((layer) => (
    <Folded key={layer.id} summary={t.ways(isolate(layer.vinyl.name))} testId="way-choice">
      {() => (
        <WriteForm what="way" className="line-up" preventScrollReset>
          <input type="hidden" name="vinyl" value={layer.vinyl.id} />
          <input type="hidden" name="topic" value="press" />
          <input type="hidden" name="step" value={step.id} />
          <SelectField
            name="way"
            label={t.way}
            answer={undefined}
            initial={layer.ways.find((w) => w.mine)?.key ?? layer.ways[0]!.key}
            options={layer.ways.map(
              (w) => [w.key, `${w.says}${w.followers > 0 ? ` (${t.follow(w.followers)})` : ''}`] as const,
            )}
          />
          <Button type="submit" variant="outlined">
            {words.jobSheet.pressing.schoolDo}
          </Button>
        </WriteForm>
      )}
    </Folded>
  ));
}
