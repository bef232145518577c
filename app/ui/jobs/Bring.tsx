import Button from '@mui/material/Button';
import { useRef, type FormEvent, type ReactNode } from 'react';
import { artworkLimits, designs } from '#core/artwork/index.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { FormNotice } from '../base/Field.tsx';
import { FileField } from '../base/FileField.tsx';
import { WriteForm } from '../base/WriteForm.tsx';
import { useReadDrawing } from './useReadDrawing.ts';

/** The drawing of a form, as text; undefined where there is none, or one that is too large to read here. */
export async function drawingIn(form: HTMLFormElement): Promise<{ svg: string; name: string } | undefined> {
  const data = new FormData(form);
  const file = data.get('file');
  const chosen = file instanceof File && file.size > 0 ? file : undefined;
  const svg = chosen ?? new Blob([String(data.get('svg') ?? '')]);
  if (svg.size === 0 || svg.size > artworkLimits.bytes) return undefined;
  return { svg: await svg.text(), name: chosen?.name.replace(/\.[^.]*$/, '') ?? words.jobArt.pastedName };
}

/** A file that was chosen is meant: one tap less. */
export const sendChosen = (e: FormEvent<HTMLFormElement>) => {
  const input = e.target as unknown as HTMLInputElement;
  if (input.type === 'file' && input.files?.[0] && input.files[0].size <= artworkLimits.bytes)
    e.currentTarget.requestSubmit();
};

type Fields = { wrong: string | undefined; reading: ReturnType<typeof useReadDrawing>; pasted?: string | undefined };

/** A file to drop or choose, or text to paste; how far it is read. */
export function DrawingFields({ wrong, reading, pasted }: Fields) {
  const t = words.jobArt;
  return (
    <>
      <FileField
        label={t.drop}
        accept=".svg,image/svg+xml"
        problem={wrong}
        most={{ bytes: artworkLimits.bytes, says: t.large }}
      />
      {reading.share !== undefined && (
        <div className="line-up" role="status">
          <progress value={reading.share} max={1} aria-label={t.reading} />
          <span>{t.reading}</span>
          <Button onClick={reading.stop}>{t.stop}</Button>
        </div>
      )}
      <details open={!!pasted}>
        <summary>{t.paste}</summary>
        <label htmlFor="svg" className="visually-hidden">
          {t.pasted}
        </label>
        <textarea id="svg" name="svg" rows={6} className="svg-text" defaultValue={pasted} spellCheck={false} />
      </details>
      <div>
        <Button type="submit">{t.use}</Button>
      </div>
    </>
  );
}

/** Drawings of ours to try, each as what it does. */
export function OurDesigns({ each }: { each: (design: (typeof designs)[number], picture: ReactNode) => ReactNode }) {
  return (
    <>
      <p className="section-word above-24">{words.jobArt.ours}</p>
      <ul className="designs">
        {designs.map((d) => (
          <li key={d.key}>
            {each(
              d,
              <>
                <img src={`data:image/svg+xml;utf8,${encodeURIComponent(d.svg)}`} alt="" width={120} height={90} />
                <span>{d.name}</span>
              </>,
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

type Props = { problem: string | undefined; answer: FormAnswer | undefined; open: boolean };

/** Brings the drawing of a job: a file, text, or one of ours. */
export function Bring({ problem, answer, open }: Props) {
  const body = (
    <>
      <BringForm problem={problem} answer={answer} />
      <OurDesigns
        each={(d, picture) => (
          <WriteForm what="set" encType="multipart/form-data">
            <input type="hidden" name="design" value={d.key} />
            <button type="submit" className="design">
              {picture}
            </button>
          </WriteForm>
        )}
      />
    </>
  );
  return open ? (
    body
  ) : (
    <details className="above-32" open={!!problem}>
      <summary>{words.jobArt.another}</summary>
      {body}
    </details>
  );
}

/** The form for a drawing of one's own: read here first, then sent. */
function BringForm({ problem, answer }: Omit<Props, 'open'>) {
  const reading = useReadDrawing();
  // The drawing was read and found usable: the form is sent.
  const usable = useRef(false);
  const submit = (e: FormEvent<HTMLFormElement>) => {
    const form = e.currentTarget;
    if (usable.current) {
      usable.current = false;
      return;
    }
    e.preventDefault();
    void drawingIn(form).then(async (drawing) => {
      if (drawing !== undefined && !(await reading.read(drawing.svg))) return;
      usable.current = true;
      form.requestSubmit();
    });
  };
  return (
    <WriteForm what="set" encType="multipart/form-data" className="form bring" onSubmit={submit} onChange={sendChosen}>
      {answer && !problem && <FormNotice answer={answer} text={words.errors.form} />}
      <DrawingFields wrong={reading.wrong ?? problem} reading={reading} pasted={answer?.values.svg} />
    </WriteForm>
  );
}
