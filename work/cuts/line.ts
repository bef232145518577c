import { hostname } from 'node:os';
import { v5 as uuidv5, v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { limitsOf, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { hpglComment, hpglOfPiece, piecesOf, type CutPiece } from '#core/cutfile/index.ts';
import * as coupons from '#store/coupons/coupons.ts';
import { afterCommit, alreadyThere, db, transaction } from '#store/base/db.ts';
import * as store from '#store/cuts/line.ts';
import { couponModel } from '#work/coupons/coupons.ts';
import { devices, devicesFor, type Device } from './deviceList.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { HpglLine, lineDefaults, LineError } from './hpglLine.ts';
import { keepPicture } from './pictures.ts';
import { log } from '#work/base/log.ts';
import type { Person } from '#work/people/person.ts';
import * as eventStore from '#store/coupons/events.ts';

/** Runs that this process is driving. */
const driving = new Set<string>();
/** This process, as a run names who drives it; another process on this machine can look whether it is alive. */
const DRIVER = `${hostname()}:${process.pid}`;
/** How often a driver says that it is alive, and after how long a silent one is taken for gone, seconds. */
const BEAT = { every: 5, gone: 30 };

/** The device that server-side cut events name: the line, not a person's browser. */
export const LINE_DEVICE = '6f6a9a0e-56f3-4a6e-8c1f-0c8d3a6a7b10';

const sendForm = z.object({
  device: z.string().max(60),
  cells: z
    .string()
    .regex(/^\d{1,3}(,\d{1,3}){0,98}$/, 'That is no list of cells.')
    .transform((s) => s.split(',').map(Number)),
  /** Passes each cell is to have in all; those it has had are not run again. */
  pass: z.coerce.number().int().min(1).max(9),
});

export type RunView = {
  id: string;
  device: string;
  simulated: boolean;
  running: boolean;
  trouble: string | null;
  cells: { number: number; cell: string; pass: number; state: coupons.RunState }[];
};
export type LineView = {
  devices: { key: string; name: string; simulated: boolean }[];
  /** Whether the cutter takes strength from the file, so that all cells can go at once. */
  takesStrength: boolean;
  run: RunView | undefined;
  /** Passes that may or may not have been cut, of any run; and cells that are spoiled. */
  doubtful: { run: string; number: number; cell: string; pass: number; state: coupons.RunState }[];
};

/** What the line to a cutter has to say about a coupon. */
export async function lineOf(person: Person | undefined, couponId: string): Promise<LineView> {
  const { model } = await couponModel(person, couponId);
  return lineOfCut(person, couponId, model);
}

/** What the line to a cutter has to say about a cut that is the person's own; only which cutters there are where nothing was cut yet. */
export async function lineOfCut(
  person: Person | undefined,
  cutId: string | undefined,
  model: CutterModel,
): Promise<LineView> {
  const [run, doubtful] =
    cutId === undefined
      ? [undefined, []]
      : await Promise.all([store.latestRun(db(), cutId), coupons.doubtfulCells(db(), cutId)]);
  const cells = run ? await store.runCells(db(), run.id) : [];
  const device = run && devices().find((d) => d.key === run.device);
  return {
    devices: devicesFor(person, model.key).map(({ key, name, simulated }) => ({ key, name, simulated })),
    takesStrength: model.hpgl?.force !== undefined,
    run: run && {
      id: run.id,
      device: device?.name ?? run.device,
      simulated: device?.simulated ?? false,
      running: run.ended_at === null,
      trouble: run.trouble,
      cells: cells.map((c) => ({ number: c.number, cell: c.cell_id, pass: c.pass, state: c.state })),
    },
    doubtful: doubtful.map((c) => ({
      run: c.run_id,
      number: c.number,
      cell: c.cell_id,
      pass: c.pass,
      state: c.state,
    })),
  };
}

/** What goes to a cutter: cells of one cut, and what is drawn for each of them. */
export type Sent = {
  cutId: string;
  vinylId: string;
  model: CutterModel;
  cells: coupons.CellRow[];
  /** What is cut of a cell: its lines, the height of the sheet they lie on, and their length, µm. */
  drawn: (cell: coupons.CellRow) => { piece: CutPiece; height: number; lengthUm: number };
};

/**
 * Sends cells of a coupon to a cutter. What is to be cut is written down first; a pass that was cut, or may have been, by line
 * or by hand, is never sent again. Answers at once: the cutting goes on in the background, and the page looks at its state.
 *
 * @throws Invalid when the cutter is not on the administrator's list, is at work, or a cell is cut already
 */
export async function sendToCutter(person: Person, couponId: string, form: FormData): Promise<void> {
  const { row, model } = await couponModel(person, couponId, 'change');
  const cells = await coupons.cellsOf(db(), couponId);
  await sendCells(person, read(sendForm, form), {
    cutId: couponId,
    vinylId: row.vinyl_id,
    model,
    cells,
    drawn: (cell) => {
      const { pieces, height } = piecesOf(row.sheet, model, cell.number);
      return { piece: pieces[0]!, height, lengthUm: row.sheet.cells.find((c) => c.number === cell.number)!.length };
    },
  });
}

/** Sends cells of a cut to a cutter, see `sendToCutter`. The cut is the person's own. */
export async function sendCells(person: Person, input: z.infer<typeof sendForm>, sent: Sent): Promise<void> {
  const device = devicesFor(person, sent.model.key).find((d) => d.key === input.device);
  if (!device) throw new Invalid({ form: 'That cutter is not on this server’s list, or not for you.' });
  const runs = await eventStore.passesRun(db(), sent.cutId);
  const chosen = input.cells.map((number) => {
    const cell = sent.cells.find((c) => c.number === number);
    if (!cell) throw new NotFound('No such cell.');
    const done = runs.find((r) => r.cell_id === cell.id)?.passes ?? 0;
    if (done >= input.pass)
      throw new Invalid({ form: `Cell ${number} has had that pass already. It is not cut twice.` });
    return { cell, passes: Array.from({ length: input.pass - done }, (_, i) => done + 1 + i) };
  });
  const runId = uuidv7();
  try {
    await transaction(async (q) => {
      await store.insertRun(q, {
        id: runId,
        cutId: sent.cutId,
        personId: person.id,
        device: device.key,
        driver: DRIVER,
      });
      for (const { cell, passes } of chosen)
        for (const pass of passes) await store.insertRunCell(q, { runId, cellId: cell.id, pass, number: cell.number });
    });
  } catch (error) {
    if (alreadyThere(error))
      throw new Invalid({
        form:
          (error as { constraint?: string }).constraint === 'device_run_one_at_a_time'
            ? `${device.name} is cutting something else just now. Nothing was sent.`
            : 'One of these cells is on its way already, or may have been cut. Look at the list below; nothing was sent.',
      });
    throw error;
  }
  // Only what is committed is cut: the blade cannot be rolled back.
  await afterCommit(() => {
    driving.add(runId);
    const beating = setInterval(() => void store.beat(db(), runId).catch(() => undefined), BEAT.every * 1000);
    void drive(person.id, runId, device, sent)
      .catch((error: Error) => log.warn({ event: 'run broke off', run: runId }, error.message))
      .finally(() => {
        clearInterval(beating);
        driving.delete(runId);
      });
  });
}

/** Cuts what a run has waiting, cell by cell. The state of each is committed before its bytes leave and after the answer. */
async function drive(personId: string, runId: string, device: Device, sent: Sent): Promise<void> {
  let line: HpglLine | undefined;
  let trouble: string | null = null;
  try {
    line = await HpglLine.open(device.host, device.port);
    await line.ready();
    for (const waiting of await store.runCells(db(), runId)) {
      const cell = sent.cells.find((c) => c.id === waiting.cell_id)!;
      const { piece, height, lengthUm } = sent.drawn(cell);
      const hpgl = [
        'IN;PA;SP1;',
        hpglComment(`versipel cell=${cell.id} pass=${waiting.pass} vinyl=${sent.vinylId}${handOf(sent.model, cell)}`),
        // One pass at a time: a second one is sent as a second.
        hpglOfPiece({ ...piece, passes: 1 }, height),
      ].join('\n');
      const place = { runId, cellId: cell.id, pass: waiting.pass };
      if (!(await store.moveCell(db(), place, 'waiting', 'sending'))) continue;
      const complaint = await line.cut(hpgl, cutMs(lengthUm));
      if (complaint) {
        await store.moveCell(db(), place, 'sending', 'unclear', complaint);
        trouble = complaint;
        break;
      }
      await confirmCut(personId, place);
      await keepPicture(device, cell.id, waiting.pass);
    }
  } catch (error) {
    trouble = error instanceof LineError ? error.message : 'Sending stopped on this side.';
    if (!(error instanceof LineError)) throw error;
  } finally {
    line?.close();
    await store.endRun(db(), runId, trouble).catch(() => undefined);
  }
}

/**
 * For a cutter whose strength is set by hand, where on its axis the hand has put it: 0 to 1. A real cutter passes over the
 * comment; a simulated one has no other way to know its dial.
 */
function handOf(model: CutterModel, cell: coupons.CellRow): string {
  if (model.hpgl?.force !== undefined) return '';
  const axis = strengthAxis(model);
  const { min, max } = limitsOf(axis);
  return ` hand=${((cell.setting.steps[axis.key]! - min) / (max - min)).toFixed(4)}`;
}

/** Writes down that a pass is cut: its state and the event the blade's age counts, both or neither. */
async function confirmCut(
  personId: string,
  place: { runId: string; cellId: string; pass: number },
  from: coupons.RunState = 'sending',
): Promise<boolean> {
  return transaction(async (q) => {
    if (!(await store.moveCell(q, place, from, 'cut'))) return false;
    await eventStore.insertEvents(q, personId, [
      {
        id: uuidv5(`${place.cellId} ${place.pass}`, LINE_DEVICE),
        kind: 'cut',
        cell: place.cellId,
        passes: place.pass,
        device: LINE_DEVICE,
        deviceAt: new Date().toISOString(),
      },
    ]);
    return true;
  });
}

const settleForm = z.object({
  run: z.uuid(),
  cell: z.uuid(),
  pass: z.coerce.number().int().min(1).max(9),
  seen: z.enum(['cut', 'not cut', 'spoiled']),
});

/** What a person saw on the mat of a pass that was unclear. */
export async function settleCell(person: Person, couponId: string, form: FormData): Promise<void> {
  await couponModel(person, couponId, 'change');
  await settleCut(person, couponId, form);
}

/** The same of any cut that is the person's own. */
export async function settleCut(person: Person, cutId: string, form: FormData): Promise<void> {
  const input = read(settleForm, form);
  const run = await store.runById(db(), input.run);
  if (!run || run.cut_id !== cutId) throw new NotFound('No such run.');
  const place = { runId: input.run, cellId: input.cell, pass: input.pass };
  const moved =
    input.seen === 'cut'
      ? await confirmCut(person.id, place, 'unclear')
      : await store.moveCell(db(), place, 'unclear', input.seen);
  const device = devices().find((d) => d.key === run.device);
  if (moved && device && input.seen === 'cut') await afterCommit(() => keepPicture(device, input.cell, input.pass));
  if (!moved) throw new Invalid({ form: 'Somebody has said that already. Nothing was changed.' });
}

/**
 * How long a pass may take, ms: the slowest cutters go 5 mm a second, and a cutter may first finish what it is at.
 * Common practice, no source.
 */
const cutMs = (lengthUm: number): number => lineDefaults.cutMs + lengthUm / 1000 / 0.005;

/** Whether the process that drives a run is gone: on this machine one can look; elsewhere it has been silent for too long. */
function isGone({ driver, silent }: { driver: string | null; silent: boolean }): boolean {
  if (driver === null || silent) return true;
  const [host, pid] = [driver.slice(0, driver.lastIndexOf(':')), Number(driver.slice(driver.lastIndexOf(':') + 1))];
  if (host !== hostname() || pid === process.pid) return false;
  try {
    process.kill(pid, 0);
    return false;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ESRCH';
  }
}

/**
 * Ends runs that nobody drives any more: after a start, or when the database was gone as one ended. What was on its way may have
 * been cut, what had not left was not. A run that another process drives is left alone: the cutter is under its blade.
 */
export async function settleAfterCrash(): Promise<number> {
  const open = (await store.openRuns(db(), BEAT.gone)).filter((run) => !driving.has(run.id) && isGone(run));
  for (const run of open) await store.endRun(db(), run.id, 'The server stopped while this was being cut.');
  return open.length;
}
