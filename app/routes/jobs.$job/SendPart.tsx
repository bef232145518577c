import Button from '@mui/material/Button';
import { useNavigation } from 'react-router';
import type { LineView } from '#work/cuts/line.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Doubtful, LineProgress } from '../../ui/cuts/CutterLine.tsx';
import type { StepProps } from './useSheet.ts';

/** What the line to the cutter says of the part: how far it is, and what a person has to look at. */
export function LineSays({ line }: { line: LineView | undefined }) {
  return (
    <>
      {line?.run && <LineProgress run={line.run} />}
      {line && line.doubtful.length > 0 && <Doubtful cells={line.doubtful} />}
    </>
  );
}

type Props = Pick<StepProps, 'job' | 'step' | 'layer'> & {
  /** The roll it is cut from; empty for none. */
  stock: string;
  /** Passes it is to have in all. */
  pass: number;
  says: (cutter: string) => string;
  /** It is not what stands first. */
  calm?: boolean | 'quiet';
};

/** Sends the part to a cutter on a line: a button for each there is. */
export function SendPart({ job, step, layer, stock, pass, says, calm = false }: Props) {
  const busy = useNavigation().state !== 'idle';
  return (job.line?.devices ?? []).map((device) => (
    <WriteForm what="send" key={device.key}>
      <input type="hidden" name="device" value={device.key} />
      <input type="hidden" name="part" value={layer.part} />
      <input type="hidden" name="attempt" value={step.attempt} />
      <input type="hidden" name="rev" value={job.rev} />
      <input type="hidden" name="stock" value={stock} />
      <input type="hidden" name="setting" value={JSON.stringify(layer.toSet!.setting)} />
      <input type="hidden" name="pass" value={pass} />
      <Button
        type="submit"
        variant={calm === 'quiet' ? 'text' : calm ? 'outlined' : 'contained'}
        disabled={busy || job.line?.run?.running}
      >
        {says(device.name)}
      </Button>
    </WriteForm>
  ));
}
