import { queryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { present } from '../../shared/present';

export type Rules = Schemas['RulesView'];
export type Severity = 'OFF' | 'CAUTION' | 'STOP';
export type ApprovalRule = Schemas['Rule'];

export const rulesQuery = queryOptions({ queryKey: keyOf('rules'), queryFn: () => answer(client.GET('/api/rules')) });
export const approvalRulesQuery = queryOptions({
  queryKey: keyOf('approval-rules'),
  queryFn: () => answer(client.GET('/api/approval-rules')),
});

const written = ({ version, checks, figures, po, places, entry, billedAhead, unwind }: Rules) => ({
  version,
  checks,
  figures,
  po,
  places,
  entry,
  billedAhead,
  unwind,
});

export const previewQuery = (rules: Rules | undefined) =>
  queryOptions({
    queryKey: keyOf('rules-preview', rules && written(rules)),
    queryFn: () => answer(client.POST('/api/rules/previews', { body: written(present(rules, 'the rules')) })),
    enabled: !!rules,
    retry: false,
    staleTime: 60_000,
  });

export const publishRules = (rules: Rules, reason: string) =>
  answer(client.PUT('/api/rules', { body: { ...written(rules), reason }, ...once() }));

export const publishApprovalRules = (rules: ApprovalRule[]) =>
  answer(client.PUT('/api/approval-rules', { body: { rules }, ...once() }));

export const ownApprovalRulesQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('approval-rules', code),
    queryFn: () => answer(client.GET('/api/customers/{code}/approval-rules', { params: { path: { code } } })),
  });

export const publishOwnApprovalRules = (code: string, rules: ApprovalRule[]) =>
  answer(
    client.PUT('/api/customers/{code}/approval-rules', { params: { path: { code } }, body: { rules }, ...once() }),
  );

export const takeBackApprovalRules = (code: string) =>
  answer(client.DELETE('/api/customers/{code}/approval-rules', { params: { path: { code } }, ...once() }));

/** Rules reach into every finding: all that is shown is asked for again. */
