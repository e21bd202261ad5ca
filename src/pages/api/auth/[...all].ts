import type { APIRoute } from 'astro';
import { answerSignIn } from '../../../use-cases/who-asks';

export const ALL: APIRoute = ({ request }) => answerSignIn(request);
