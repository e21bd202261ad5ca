import { handOver as handed } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { handOver } from '../../../../use-cases/submissions/decide-submission';

export const POST = endpoint({
  body: handed,
  answer: (context, { id, body }) => handOver(context, id, body),
});
