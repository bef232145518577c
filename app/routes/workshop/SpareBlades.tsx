import { useNumberStyle } from '../../ui/people/usePerson.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { Blade } from '#work/workshop/workshop.ts';
import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { metres } from '../../ui/base/format.ts';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

/** Blades that are on no cutter. */
export function SpareBlades({
  onBench,
  spare,
  cutters,
}: {
  onBench: string | undefined;
  spare: readonly Blade[];
  cutters: readonly { cutter: Bench['cutter'] }[];
}) {
  const t = words.workshop;
  const style = useNumberStyle();
  return (
    <ul className="rows">
      {spare.map((b) => (
        <li key={b.id} className="row" style={{ gridTemplateColumns: 'minmax(0, 1fr) auto' }}>
          <div>
            {b.name}, {b.angle}°
            <div className="quiet small">
              {words.frame.age(metres(b.cutUm, style), metres(b.lifeUm, style))} ·{' '}
              <PutRightLink kind="blade" id={b.id} />
            </div>
          </div>
          {onBench && (
            <WriteForm what="mount">
              <input type="hidden" name="cutter" value={onBench} />
              <input type="hidden" name="blade" value={b.id} />
              <Button type="submit">
                {t.mountThis} {cutters.find((c) => c.cutter.id === onBench)?.cutter.name}
              </Button>
            </WriteForm>
          )}
        </li>
      ))}
    </ul>
  );
}
