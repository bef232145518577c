import type { WeededPart } from '#core/artwork/index.ts';
import { many, type Query } from '#store/base/db.ts';

/** The last weedings of somebody that were said to be done and not taken back, with what was counted of them. */
export const weedings = (q: Query, personId: string, limit: number) =>
  many<{ event_id: string; job_id: string; counted: boolean; part: WeededPart | null }>(
    q,
    `select e.id as event_id, e.job_id, w.event_id is not null as counted, w.part
       from job_event e join job j on j.id = e.job_id left join weeded_part w on w.event_id = e.id
      where j.person_id = $1 and e.kind = 'done' and e.step like 'weed/%'
        and not exists (select 1 from job_event u where u.job_id = e.job_id and u.kind = 'undo' and u.body ->> 'event' = e.id::text)
      order by e.device_at desc limit $2`,
    [personId, limit],
  );

export const keepWeeded = async (q: Query, counted: readonly { event: string; part: WeededPart | undefined }[]) => {
  if (counted.length === 0) return;
  await q.query(
    `insert into weeded_part (event_id, part)
     select (x ->> 'event')::uuid, x -> 'part' from jsonb_array_elements($1::jsonb) x on conflict do nothing`,
    [JSON.stringify(counted.map(({ event, part }) => ({ event, ...(part ? { part } : {}) })))],
  );
};
