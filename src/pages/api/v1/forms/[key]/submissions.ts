import { fillBody } from '../../../../../contract/api';
import { API } from '../../../../../core/api/open-api';
import { ok } from '../../../../../core/kernel/result';
import { apiEndpoint } from '../../../../../http/api-endpoint';
import { fillForm } from '../../../../../use-cases/api/fill-form';

export const POST = apiEndpoint({
  body: fillBody,
  answer: async (context, { key, body, request }) => {
    const filled = await fillForm(context, key, { key: request, ...body });
    return filled.ok
      ? ok({
          status: 201,
          body: filled.value,
          headers: { location: `${API}/submissions/${filled.value.id}` },
        })
      : filled;
  },
});
