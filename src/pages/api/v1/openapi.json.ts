import { ok } from '../../../core/kernel/result';
import { apiEndpoint } from '../../../http/api-endpoint';
import { describeApi } from '../../../use-cases/api/describe';

export const GET = apiEndpoint({
  answer: async (context) => {
    const document = await describeApi(context);
    return document.ok ? ok({ status: 200, body: document.value }) : document;
  },
});
