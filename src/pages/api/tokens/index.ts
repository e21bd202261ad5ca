import { endpoint } from '../../../http/endpoint';
import { openTokens } from '../../../use-cases/tokens/keep-tokens';

export const GET = endpoint({ answer: openTokens });
