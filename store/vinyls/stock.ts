import { many, one, type Query } from '#store/base/db.ts';

export type StockKind = 'roll' | 'sheet' | 'offcut' | 'transfer';
export type StockRow = {
  id: string;
  code: string;
  person_id: string;
  vinyl_id: string;
  brand: string;
  vinyl: string;
  type: string;
  colour_id: string | null;
  colour: string | null;
  hex: string | null;
  batch_id: string | null;
  batch: string | null;
  kind: StockKind;
  width_um: number;
  length_um: number;
  /** What is left of its length. */
  left_um: number;
  price_minor: number | null;
  currency: string | null;
  from_code: string | null;
  pieces: number;
  note: string;
  made_at: Date;
  gone_at: Date | null;
};

const stockSelect = `select s.id, s.code, s.person_id, v.id as vinyl_id, v.brand, v.name as vinyl, v.type, c.id as colour_id,
    c.name as colour, c.hex, s.batch_id, b.label as batch, s.kind, s.width_um, s.length_um,
    greatest(0, s.length_um - coalesce((select sum(t.length_um) from stock_take t where t.stock_id = s.id and t.undone_at is null), 0)
      - coalesce((select max(a.y_um + a.height_um) from stock_area_take a where a.stock_id = s.id and a.undone_at is null), 0))::bigint as left_um,
    s.price_minor, s.currency, f.code as from_code, s.pieces, s.note, s.made_at, s.gone_at
  from stock s join vinyl v on v.id = vinyl_root(s.vinyl_id) left join colour c on c.id = s.colour_id
  left join batch b on b.id = s.batch_id left join stock f on f.id = s.from_id`;

export const stockOf = (q: Query, personId: string, limit: number) =>
  many<StockRow>(
    q,
    `${stockSelect} where s.person_id = $1 and s.gone_at is null order by s.made_at desc, s.id desc limit $2`,
    [personId, limit],
  );
export const stockOfVinyl = (q: Query, personId: string, vinylId: string) =>
  many<StockRow>(
    q,
    `${stockSelect} where s.person_id = $1 and s.vinyl_id = any(array(select vinyl_kin($2))) and s.gone_at is null order by s.made_at desc`,
    [personId, vinylId],
  );
export const stockById = (q: Query, id: string) => one<StockRow>(q, `${stockSelect} where s.id = $1`, [id]);
export const stockByCode = (q: Query, code: string) => one<StockRow>(q, `${stockSelect} where s.code = $1`, [code]);

export const insertStock = (
  q: Query,
  s: {
    id: string;
    code: string;
    personId: string;
    vinylId: string;
    colourId: string | null;
    batchId: string | null;
    kind: StockKind;
    widthUm: number;
    lengthUm: number;
    price: { minor: number; currency: string } | null;
    fromId: string | null;
    pieces: number;
    note: string;
  },
) =>
  q.query(
    `insert into stock (id, code, person_id, vinyl_id, colour_id, batch_id, kind, width_um, length_um, price_minor, currency, from_id, pieces, note)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)`,
    [
      s.id,
      s.code,
      s.personId,
      s.vinylId,
      s.colourId,
      s.batchId,
      s.kind,
      s.widthUm,
      s.lengthUm,
      s.price?.minor ?? null,
      s.price?.currency ?? null,
      s.fromId,
      s.pieces,
      s.note,
    ],
  );

/** Locks a piece, so that two cuts at one moment do not take the same strip. */
export const lockStock = (q: Query, id: string) => q.query('select 1 from stock where id = $1 for update', [id]);
export const insertTake = (q: Query, t: { id: string; stockId: string; cutId: string | null; lengthUm: number }) =>
  q.query('insert into stock_take (id, stock_id, cut_id, length_um) values ($1, $2, $3, $4)', [
    t.id,
    t.stockId,
    t.cutId,
    t.lengthUm,
  ]);
/** Areas that cuts took of a piece and that nobody gave back. */
export const areasOf = (q: Query, stockIds: readonly string[]) =>
  many<{ stock_id: string; cut_id: string; x: number; y: number; width: number; height: number }>(
    q,
    `select stock_id, cut_id, x_um as x, y_um as y, width_um as width, height_um as height
       from stock_area_take where stock_id = any($1) and undone_at is null`,
    [stockIds],
  );
/** Takes an area for a cut; one that was given back is laid anew. */
export const takeArea = (
  q: Query,
  cutId: string,
  stockId: string,
  area: { x: number; y: number; width: number; height: number },
) =>
  q.query(
    `insert into stock_area_take (cut_id, stock_id, x_um, y_um, width_um, height_um) values ($1, $2, $3, $4, $5, $6)
     on conflict (cut_id) do update set stock_id = excluded.stock_id, x_um = excluded.x_um, y_um = excluded.y_um,
       width_um = excluded.width_um, height_um = excluded.height_um, at = now(), undone_at = null`,
    [cutId, stockId, area.x, area.y, area.width, area.height],
  );
/** The piece that a cut took an area of, given back or not. */
export const stockOfArea = (q: Query, cutId: string) =>
  one<{ stock_id: string }>(q, 'select stock_id from stock_area_take where cut_id = $1', [cutId]);

/** Puts back what was taken: a strip by its own id, an area by that of its cut. */
export const undoTake = async (q: Query, personId: string, takeId: string) => {
  const undone = (table: string, id: string) =>
    q.query(
      `update ${table} t set undone_at = now() from stock s
        where t.${id} = $2 and s.id = t.stock_id and s.person_id = $1 and t.undone_at is null`,
      [personId, takeId],
    );
  return (
    (await undone('stock_take', 'id')).rowCount === 1 || (await undone('stock_area_take', 'cut_id')).rowCount === 1
  );
};
export type TakeRow = {
  id: string;
  stock_id: string;
  code: string;
  cut_id: string | null;
  /** Of an area: how far it goes along the piece. */
  length_um: number;
  /** Of an area; null of a strip, which is as wide as its piece. */
  width_um: number | null;
  at: Date;
};
const takeSelect = `select t.id, t.stock_id, s.code, t.cut_id, t.length_um, t.width_um, t.at from (
    select id, stock_id, cut_id, length_um, null::integer as width_um, at from stock_take where undone_at is null
    union all
    select cut_id, stock_id, cut_id, height_um, width_um, at from stock_area_take where undone_at is null
  ) t join stock s on s.id = t.stock_id`;
export const takeOfCut = (q: Query, cutId: string) => one<TakeRow>(q, `${takeSelect} where t.cut_id = $1`, [cutId]);
export const takesOf = (q: Query, stockId: string) =>
  many<TakeRow>(q, `${takeSelect} where t.stock_id = $1 order by t.at desc`, [stockId]);
export const updateStock = (
  q: Query,
  s: {
    id: string;
    colourId: string | null;
    batchId: string | null;
    kind: StockKind;
    widthUm: number;
    lengthUm: number;
    price: { minor: number; currency: string } | null;
    pieces: number;
    note: string;
  },
) =>
  q.query(
    `update stock set colour_id = $2, batch_id = $3, kind = $4, width_um = $5, length_um = $6, price_minor = $7, currency = $8, pieces = $9, note = $10
      where id = $1`,
    [
      s.id,
      s.colourId,
      s.batchId,
      s.kind,
      s.widthUm,
      s.lengthUm,
      s.price?.minor ?? null,
      s.price?.currency ?? null,
      s.pieces,
      s.note,
    ],
  );
