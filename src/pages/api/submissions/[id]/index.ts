import { saveDraft } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { openSubmission } from '../../../../use-cases/open-sheet';
import { dropDraft, saveDraft as save } from '../../../../use-cases/save-draft';

export const GET = endpoint({ answer: (context, { id }) => openSubmission(context, id) });
export const PUT = endpoint({ body: saveDraft, answer: (context, { id, body }) => save(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => dropDraft(context, id) });
