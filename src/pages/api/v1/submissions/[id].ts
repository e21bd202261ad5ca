import { ok } from '../../../../core/kernel/result';
import { apiEndpoint } from '../../../../http/api-endpoint';
import { submissionState } from '../../../../use-cases/api/fill-form';

export const GET = apiEndpoint({
  answer: async (context, { id }) => {
    const state = await submissionState(context, id);
    return state.ok ? ok({ status: 200, body: state.value }) : state;
  },
});
