import { z } from 'zod';
import { line } from './common.ts';

export const searchQuery = z.strictObject({ q: line(100) });

/** Something that can join a line-up, found by a part of its name or address. */
export type Found =
  | { kind: 'person'; id: number; name: string; email: string; detail: string }
  | { kind: 'team'; id: number; name: string; memberIds: number[]; detail: string }
  | { kind: 'resource'; id: number; name: string; resourceKind: string; detail: string };

/** The names that a sentence can mean: people, teams, resources and sites. */
export interface Vocabulary {
  people: { id: number; name: string; detail: string }[];
  teams: { id: number; name: string; memberIds: number[] }[];
  resources: { id: number; name: string; kind: string; detail: string }[];
  sites: { id: number; name: string; city: string; zone: string }[];
}
