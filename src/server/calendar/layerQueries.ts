import type { Layer, LayerColour } from '../../contract/calendar.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** The layers a person has put over their calendar, in their order. */
export async function readLayerList(db: Database, ownerId: number): Promise<Layer[]> {
  const { rows } = await db.query<Layer>(
    `select layer.id, coalesce(subject.kind, 'team') as kind, coalesce(subject.name, team.name) as name,
            layer.colour, layer.shown,
            case when layer.subject_id is not null then array[layer.subject_id]
                 else coalesce((select array_agg(person_id order by person_id) from team_member
                                where team_member.team_id = layer.team_id), '{}')
            end as "subjectIds"
     from layer
     left join subject on subject.id = layer.subject_id
     left join team on team.id = layer.team_id
     where layer.owner_id = $1 order by layer.position, layer.id`,
    [ownerId],
  );
  return rows;
}

/**
 * Adds a layer at the end; one that is there already is shown again.
 * @returns false when there is no such subject or team
 */
export async function insertLayer(
  tx: Transaction,
  ownerId: number,
  of: { subjectId: number | null; teamId: number | null },
  colour: LayerColour,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `insert into layer (owner_id, subject_id, team_id, colour, position)
     select $1, $2, $3, $4, coalesce((select max(position) + 1 from layer where owner_id = $1), 0)
     where exists (select 1 from subject where id = $2) or exists (select 1 from team where id = $3)
     on conflict (owner_id, subject_id, team_id) do update set shown = true`,
    [ownerId, of.subjectId, of.teamId, colour],
  );
  return rowCount === 1;
}

/** @returns false when the person has no such layer */
export async function updateLayer(
  tx: Transaction,
  ownerId: number,
  id: number,
  change: { colour?: LayerColour | undefined; shown?: boolean | undefined },
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update layer set colour = coalesce($3, colour), shown = coalesce($4, shown)
     where id = $2 and owner_id = $1`,
    [ownerId, id, change.colour ?? null, change.shown ?? null],
  );
  return rowCount === 1;
}

export async function deleteLayer(tx: Transaction, ownerId: number, id: number): Promise<boolean> {
  const { rowCount } = await tx.query('delete from layer where id = $2 and owner_id = $1', [
    ownerId,
    id,
  ]);
  return rowCount === 1;
}
