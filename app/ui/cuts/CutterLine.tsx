import Button from '@mui/material/Button';
import { useNavigation } from 'react-router';
import type { LineView, RunView } from '#work/cuts/line.ts';
import { words } from '../../messages/index.ts';
import { WriteForm } from '../base/WriteForm.tsx';

const t = words.run.send;

/** Sends cells to a cutter on a line. */
export function SendButton({
  device,
  cells,
  pass,
  label,
}: {
  device: LineView['devices'][number];
  cells: number[];
  pass: number;
  label: string;
}) {
  const busy = useNavigation().state !== 'idle';
  return (
    <WriteForm what="send">
      <input type="hidden" name="device" value={device.key} />
      <input type="hidden" name="cells" value={cells.join(',')} />
      <input type="hidden" name="pass" value={pass} />
      <Button type="submit" disabled={busy}>
        {label}
      </Button>
    </WriteForm>
  );
}

/** Where a run stands: what is cut, what is under the blade, and why it stopped when it did. */
export function LineProgress({ run }: { run: RunView }) {
  const done = run.cells.filter((c) => c.state === 'cut').length;
  if (!run.running && !run.trouble) return null;
  if (run.running)
    return (
      <div role="status" data-testid="line" data-running="true">
        <p className="section-word">
          {run.device} {run.simulated && <span className="tag">{t.simulated}</span>}
        </p>
        <p className="big">
          {done} <span style={{ fontSize: '0.4em' }}>of {run.cells.length} cut</span>
        </p>
        <ol className="line-cells above-20">
          {run.cells.map((c) => (
            <li key={`${c.cell} ${c.pass}`} data-state={c.state}>
              <strong>{c.number}</strong> {t.state[c.state]}
            </li>
          ))}
        </ol>
        <p className="quiet above-16">{t.stay}</p>
      </div>
    );
  return (
    <div className="notice bad" role="status" data-testid="line" data-running="false">
      <p>
        <strong>{`${t.trouble}: ${run.device}.`}</strong>
        {run.trouble} {run.simulated && <span className="tag">{t.simulated}</span>}
      </p>
      <ol className="line-cells">
        {run.cells.map((c) => (
          <li key={`${c.cell} ${c.pass}`} data-state={c.state}>
            <strong>{c.number}</strong> {t.state[c.state]}
            {c.pass > 1 && ` (pass ${c.pass})`}
          </li>
        ))}
      </ol>
      <p className="quiet small">{t.kept}</p>
    </div>
  );
}

/** Passes that may or may not have been cut: a person looks at the mat and says. */
export function Doubtful({ cells }: { cells: LineView['doubtful'] }) {
  const first = cells[0]!;
  return (
    <div style={{ fontSize: '1.25rem' }}>
      <h2 style={{ fontSize: '2rem' }} aria-live="polite">
        {t.unclear(first.number)}
      </h2>
      <p style={{ margin: '12px 0 24px', maxWidth: '44ch' }}>{t.look}</p>
      <div className="actions above-0">
        {(
          [
            ['cut', t.seenCut],
            ['not cut', t.seenNot],
            ['spoiled', t.seenHalf],
          ] as const
        ).map(([seen, label]) => (
          <WriteForm what="settle" key={seen}>
            <input type="hidden" name="run" value={first.run} />
            <input type="hidden" name="cell" value={first.cell} />
            <input type="hidden" name="pass" value={first.pass} />
            <input type="hidden" name="seen" value={seen} />
            <Button type="submit">{label}</Button>
          </WriteForm>
        ))}
      </div>
    </div>
  );
}
