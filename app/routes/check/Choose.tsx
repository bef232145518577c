import type { FormEvent } from 'react';
import { words } from '../../messages/index.ts';
import { DrawingFields, drawingIn, OurDesigns, sendChosen } from '../../ui/jobs/Bring.tsx';
import { useReadDrawing } from '../../ui/jobs/useReadDrawing.ts';
import type { Board } from './useBoard.ts';

/** A file to look at: read here, sent nowhere. */
export function Choose({ board, lede }: { board: Board; lede: string }) {
  const reading = useReadDrawing();
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    void drawingIn(e.currentTarget).then(async (drawing) => {
      const read = drawing && (await reading.read(drawing.svg));
      if (!read) return;
      if (read === 'unread') await board.open(drawing.name, drawing.svg);
      else board.put(drawing.name, drawing.svg, read.artwork!);
    });
  };
  return (
    <>
      <p className="lede">{lede}</p>
      <form className="form bring" onSubmit={submit} onChange={sendChosen}>
        <DrawingFields wrong={reading.wrong ?? board.wrong} reading={reading} />
      </form>
      <OurDesigns
        each={(d, picture) => (
          <button type="button" className="design" onClick={() => void board.open(d.name, d.svg)}>
            {picture}
          </button>
        )}
      />
      {board.busy && <p role="status">{words.jobArt.reading}</p>}
    </>
  );
}
