import { isUuid } from '../../../../../core/kernel/ids';
import { notFound } from '../../../../../core/kernel/refusal';
import { fail } from '../../../../../core/kernel/result';
import { endpoint } from '../../../../../http/endpoint';
import { endLink } from '../../../../../use-cases/outside/keep-outside';

export const DELETE = endpoint({
  answer: async (context, { id, params }) => {
    const link = params['link'] ?? '';
    return isUuid(link) ? endLink(context, id, link) : fail(notFound('link'));
  },
});
