import { descriptionEndpoints } from '@/contract/description';
import { openApi } from '@/contract/openapi';
import { serveAll } from './serve';

export const descriptionCalls = serveAll(descriptionEndpoints, { openApi: () => openApi() });
