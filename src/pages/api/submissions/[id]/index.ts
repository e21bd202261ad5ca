import { saveDraft } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { openSubmission } from '../../../../use-cases/submissions/open-sheet';
import { dropDraft, saveDraft as save } from '../../../../use-cases/submissions/save-draft';

export const GET = endpoint({ answer: (context, { id }) => openSubmission(context, id) });
export const PUT = endpoint({ body: saveDraft, answer: (context, { id, body }) => save(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => dropDraft(context, id) });
