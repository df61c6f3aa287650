import { descriptionEndpoints } from '@/contract/description';
import { openApi } from '@/contract/openapi';
import { serveAll } from './serve';

let made: ReturnType<typeof openApi> | null = null;

export const descriptionCalls = serveAll(descriptionEndpoints, { openApi: () => (made ??= openApi()) });
