import Button from '@mui/material/Button';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { PieceFields } from '../../ui/vinyls/PieceFields.tsx';

/** Puts a roll, a sheet or an offcut into the stock. */
export function AddPiece({
  vinyl,
  actionData,
}: {
  vinyl: Vinyl & { colours: readonly { id: string; name: string }[] };
  actionData: FormAnswer | undefined;
}) {
  const t = words.stock;
  return (
    <WriteForm what="add" className="form add-piece" noValidate>
      <h2 className="section-word">{t.add}</h2>
      <FormNotice answer={actionData} text={words.errors.form} />
      <input type="hidden" name="vinyl" value={vinyl.id} />
      <PieceFields answer={actionData} colours={vinyl.colours} colour={vinyl.colour?.id} />
      <div>
        <Button type="submit" variant="contained">
          {t.add}
        </Button>
      </div>
    </WriteForm>
  );
}
