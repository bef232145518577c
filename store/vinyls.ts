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
  /** What the public evidence for this model says, and from how many crafters. */
  shared: FitResult | null;
  crafters: number | null;
  kept: { steps: Record<string, number> } | null;
  standing: string | null;
  adopted: boolean;
  last_cut: Date | null;
};

/**
 * Every vinyl a person may see, with the current reading and setting for one cutter of theirs, and what others found on that
 * model: those they cut last first, or with a search those that fit it best. `throughTypes`: the vinyl types wanted through.
 */
export const listVinyls = (
  q: Query,
  personId: string,
  cutter: { id: string; model: string; version: number } | null,
  words: string[],
  throughTypes: readonly string[],
  limit: number,
) =>
  many<ListedVinyl>(
    q,
    `select x.*, p.result, sp.result as shared, sr.crafters, s.controls as kept, s.standing, s.source_card is not null as adopted,
        (select max(cut.created_at) from cut where cut.vinyl_id = x.id and cut.person_id = $1) as last_cut
       from (${vinylSelect}
         where v.person_id = $1 or v.visibility = 'public'
            or exists (select 1 from setting o where o.vinyl_id = v.id and o.person_id = $1)) x
       join vinyl_words w on w.vinyl_id = x.id
       cross join lateral (select case when x.type = any($4) then 'through' else 'clean' end as wanted) t
       cross join lateral (select case when cardinality($3::text[]) = 0 then 1 else fit_of_words($3, w.words) end as fit) f
       left join reading r on r.person_id = $1 and r.vinyl_id = x.id and r.cutter_id = $2 and r.wanted = t.wanted
       left join posterior p on p.input_hash = r.input_hash
       left join shared_reading sr on (sr.vinyl_id, sr.model_key, sr.model_version, sr.wanted) = (x.id, $5, $6, t.wanted)
       left join posterior sp on sp.input_hash = sr.input_hash
       left join setting s on s.person_id = $1 and s.vinyl_id = x.id and s.cutter_id = $2
        and s.wanted = t.wanted and s.replaced_at is null
      where f.fit is not null and not exists (select 1 from vinyl_alias a where a.alias_id = x.id)
      order by f.fit desc, last_cut desc nulls last, x.name, x.id
      limit $7`,
    [personId, cutter?.id ?? null, words, throughTypes, cutter?.model ?? null, cutter?.version ?? null, limit],
  );

/** A vinyl that is shared by link or with everybody is found by those it is shared with; it is never hidden again by that. */
export const raiseVisibility = (q: Query, id: string, visibility: 'link' | 'public') =>
  q.query(
    `update vinyl set visibility = $2 where id = $1 and (visibility = 'private' or (visibility = 'link' and $2 = 'public'))`,
    [id, visibility],
  );
