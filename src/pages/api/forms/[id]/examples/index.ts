import { endpoint } from '../../../../../http/endpoint';
import { playExamples } from '../../../../../use-cases/forms/examples';

/** Played by the draft as it is. */
export const GET = endpoint({ answer: (context, { id }) => playExamples(context, id) });
