import { grantsTried } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { tryWho } from '../../../../use-cases/people/try-who';

/** Changes nothing: what people would see. */
export const POST = endpoint({
  body: grantsTried,
  answer: (context, { key, body }) => tryWho(context, key, body),
});
