import { queryOptions } from '@tanstack/react-query';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';

/** What files may be kept with. */
export type Owner = 'orders' | 'returns' | 'unexpected-goods' | 'write-offs';

export const attachmentsQuery = (owner: Owner, number: string) =>
  queryOptions({
    queryKey: keyOf('attachments', owner, number),
    queryFn: () => answer(client.GET('/api/{owner}/{number}/attachments', { params: { path: { owner, number } } })),
  });
