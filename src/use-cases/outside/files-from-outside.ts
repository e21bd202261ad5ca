import type { FileFacts } from '../../core/form/file';
import type { Refusal } from '../../core/kernel/refusal';
import type { Result } from '../../core/kernel/result';
import { announceFile, bringFilePiece, finishFile, type Answering } from '../files/bring-file';
import { describeFiles } from '../files/open-file';
import { asVisitor, type Visitor } from './come-in';

/** Which question of the form of their link a file answers; whatever else was named, it is that form. */
const answeringBy = ({ link, visit }: Visitor, { question }: { readonly question: string }): Answering => ({
  form: link.form,
  question,
  submission: visit.fills ? null : visit.submission,
});

/** Announces a file that somebody outside brings for their own sheet; nobody else who came by the same link sees it. */
export const announceFromOutside = (
  visitor: Visitor,
  id: string,
  { name, size, question }: { readonly name: string; readonly size: number; readonly question: string },
): Promise<Result<{ come: readonly number[] }, Refusal>> =>
  asVisitor(visitor, (context) =>
    announceFile(context, id, { ...answeringBy(visitor, { question }), name, size }),
  );

export const bringFromOutside = (visitor: Visitor, id: string, piece: number, bytes: Buffer) =>
  asVisitor(visitor, (context) => bringFilePiece(context, id, piece, bytes));

export const finishFromOutside = (
  visitor: Visitor,
  id: string,
  asked: { readonly question: string },
): Promise<Result<FileFacts, Refusal>> =>
  asVisitor(visitor, (context) => finishFile(context, id, answeringBy(visitor, asked)));

export const describeFromOutside = (visitor: Visitor, ids: readonly string[]) =>
  asVisitor(visitor, (context) => describeFiles(context, ids));
