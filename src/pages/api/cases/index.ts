import { findCases } from '../../../contract/waiting-cases';
import { endpoint } from '../../../http/endpoint';
import { openWaiting } from '../../../use-cases/submissions/move-case';

export const GET = endpoint({
  query: findCases,
  answer: (context, { query }) => openWaiting(context, query.words),
});
