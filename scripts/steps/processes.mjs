import { availableParallelism } from 'node:os';

/** How many answer at once unless somebody says otherwise: a core each, and no more than PostgreSQL's own choice of 100 connections lets in. */
const MOST = 4;
export const processes = Math.max(
  1,
  Number(process.env.SLATE_PROCESSES ?? Math.min(availableParallelism(), MOST)),
);
