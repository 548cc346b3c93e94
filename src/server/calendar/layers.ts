import type { z } from 'zod';
import {
  LAYER_COLOURS,
  type changeLayerRequest,
  type Layer,
  type newLayerRequest,
} from '../../contract/calendar.ts';
import { MOST_LAYERS } from '../../contract/limits.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Transaction } from '../db/transaction.ts';
import { deleteLayer, insertLayer, readLayerList, updateLayer } from './layerQueries.ts';

interface Layers {
  layers: Layer[];
}

const noSuchLayer = () => new Refusal('no-such-layer', 'You have no such layer.');

/**
 * Lays somebody's or something's calendar over mine, in the colour that is used least.
 * @throws Refusal naming what is none, or one too many
 */
export async function addLayer(
  tx: Transaction,
  personId: number,
  request: z.output<typeof newLayerRequest>,
): Promise<Layers> {
  const layers = await readLayerList(tx, personId);
  if (layers.length >= MOST_LAYERS) {
    throw invalid([{ field: 'subjectId', message: `may be one of at most ${MOST_LAYERS} layers` }]);
  }
  if (request.subjectId === personId) {
    throw invalid([{ field: 'subjectId', message: 'must be somebody else: yours is there' }]);
  }
  const uses = (colour: string) => layers.filter((one) => one.colour === colour).length;
  const colour = [...LAYER_COLOURS].sort((a, b) => uses(a) - uses(b))[0]!;
  const of = { subjectId: request.subjectId ?? null, teamId: request.teamId ?? null };
  if (!(await insertLayer(tx, personId, of, colour))) {
    const field = of.teamId === null ? 'subjectId' : 'teamId';
    throw invalid([{ field, message: 'must be the id of a person, a resource or a team' }]);
  }
  return { layers: await readLayerList(tx, personId) };
}

/** @throws Refusal where there is no such layer of theirs */
export async function changeLayer(
  tx: Transaction,
  personId: number,
  id: number,
  change: z.output<typeof changeLayerRequest>,
): Promise<Layers> {
  if (!(await updateLayer(tx, personId, id, change))) throw noSuchLayer();
  return { layers: await readLayerList(tx, personId) };
}

/** @throws Refusal where there is no such layer of theirs */
export async function removeLayer(tx: Transaction, personId: number, id: number): Promise<Layers> {
  if (!(await deleteLayer(tx, personId, id))) throw noSuchLayer();
  return { layers: await readLayerList(tx, personId) };
}
