import type { FitResult } from '#core/window/index.ts';
import { many, one, type Query } from './db.ts';

export type VinylRow = {
  id: string;
  brand: string;
  name: string;
  type: string;
  person_id: string;
  visibility: string;
  colour_id: string | null;
  colour: string | null;
  hex: string | null;
};

const vinylSelect = `select v.id, v.brand, v.name, v.type, v.person_id, v.visibility, c.id as colour_id, c.name as colour, c.hex
  from vinyl v left join lateral (select id, name, hex from colour where vinyl_id = v.id order by id limit 1) c on true`;

export const insertVinyl = (
  q: Query,
  v: { id: string; brand: string; name: string; type: string; personId: string; visibility: string },
) =>
  q.query('insert into vinyl (id, brand, name, type, person_id, visibility) values ($1, $2, $3, $4, $5, $6)', [
    v.id,
    v.brand,
    v.name,
    v.type,
    v.personId,
    v.visibility,
  ]);

export const insertColour = (q: Query, c: { id: string; vinylId: string; name: string; hex: string }) =>
  q.query('insert into colour (id, vinyl_id, name, hex) values ($1, $2, $3, $4)', [c.id, c.vinylId, c.name, c.hex]);

export const vinylById = (q: Query, id: string) => one<VinylRow>(q, `${vinylSelect} where v.id = $1`, [id]);

export type ListedVinyl = VinylRow & {
  result: FitResult | null;
  kept: { steps: Record<string, number> } | null;
  standing: string | null;
  last_cut: Date | null;
};

/**
 * Every vinyl a person may see, with the current reading and setting for one cutter of theirs: those they cut last first.
 * `throughTypes`: the vinyl types that are wanted through. The words of a search must all occur somewhere in brand, name, type or colour.
 */
export const listVinyls = (
  q: Query,
  personId: string,
  cutterId: string | null,
  words: string[],
  throughTypes: readonly string[],
) =>
  many<ListedVinyl>(
    q,
    `select x.*, p.result, s.controls as kept, s.standing,
        (select max(cut.created_at) from cut where cut.vinyl_id = x.id and cut.person_id = $1) as last_cut
       from (${vinylSelect} where v.person_id = $1 or v.visibility = 'public') x
       left join reading r on r.person_id = $1 and r.vinyl_id = x.id and r.cutter_id = $2
        and r.wanted = case when x.type = any($4) then 'through' else 'clean' end
       left join posterior p on p.input_hash = r.input_hash
       left join setting s on s.person_id = $1 and s.vinyl_id = x.id and s.cutter_id = $2
        and s.wanted = case when x.type = any($4) then 'through' else 'clean' end and s.replaced_at is null
      where not exists (
        select 1 from unnest($3::text[]) w
         where strpos(lower(concat_ws(' ', x.brand, x.name, replace(x.type, '-', ' '), x.colour)), lower(w)) = 0)
      order by last_cut desc nulls last, x.name
      limit 200`,
    [personId, cutterId, words, throughTypes],
  );
