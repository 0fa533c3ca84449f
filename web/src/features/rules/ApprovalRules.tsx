import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { words } from '../../shared/format';
import { ProblemNote, tell, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Choice } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import {
  approvalRulesQuery,
  publishApprovalRules,
  publishOwnApprovalRules,
  ownApprovalRulesQuery,
  takeBackApprovalRules,
  type ApprovalRule,
} from './api';

const KINDS: [ApprovalRule['kind'], string][] = [
  ['NET_ABOVE', 'its net is above'],
  ['DISCOUNT_ABOVE', 'a discount is above %'],
  ['ORDER_KIND', 'its kind is'],
  ['STOPS_WAIVED', 'a stop was waived'],
  ['FIRST_ORDER', 'it is the customer’s first'],
];
const ORDER_KINDS = ['STANDARD', 'SAMPLE', 'REPLACEMENT', 'DIRECT', 'CALL_OFF'] as const;

/** Which orders need whose word, in the whole company. */
export function ApprovalRules({ locked }: { locked: boolean }) {
  const query = useQuery(approvalRulesQuery);
  if (!query.data) return <Waiting query={query} />;
  return <RuleTable kept={query.data.rules} locked={locked} publish={publishApprovalRules} />;
}

/** Which orders of a customer need whose word: rules of its own, or the company's. */
export function OwnApprovalRules({ code, locked }: { code: string; locked: boolean }) {
  const query = useQuery(ownApprovalRulesQuery(code));
  const takeBack = useMutation({ mutationFn: () => takeBackApprovalRules(code) });
  if (!query.data) return <Waiting query={query} />;
  return (
    <>
      <p className="muted">
        {query.data.own
          ? 'Own rules instead of the company’s. '
          : 'The company’s rules apply; changes here become the customer’s own rules. '}
        {query.data.own && !locked && (
          <button className="plain" disabled={takeBack.isPending} onClick={() => takeBack.mutate()}>
            Use the company’s rules
          </button>
        )}
      </p>
      <RuleTable kept={query.data.rules} locked={locked} publish={(rules) => publishOwnApprovalRules(code, rules)} />
    </>
  );
}

function RuleTable({
  kept,
  locked,
  publish: send,
}: {
  kept: ApprovalRule[];
  locked: boolean;
  publish: (rules: ApprovalRule[]) => Promise<unknown>;
}) {
  const [edited, setEdited] = useState<ApprovalRule[] | null>(null);
  useUnsaved(edited !== null);
  const publish = useMutation({
    mutationFn: send,
    onSuccess: () => {
      setEdited(null);
      tell('The approval rules apply to orders submitted from now on.');
    },
  });
  const rules = edited ?? kept.map((rule) => ({ ...rule, figure: rule.figure?.replace(/\.?0+$/, '') }));
  const set = (at: number, changed: Partial<ApprovalRule>) =>
    setEdited(rules.map((rule, index) => (index === at ? { ...rule, ...changed } : rule)));
  return (
    <>
      <p>
        {rules.length === 0
          ? 'No order needs approval.'
          : 'An order needs approval at every level that a rule names, the controller before the finance lead. Nobody approves their own order.'}
      </p>
      <Table
        caption="Approval rules"
        of={rules}
        keyOf={(_, index) => index}
        className="up-to-720"
        columns={[
          {
            head: 'Approval is needed when',
            cell: (rule, index) => (
              <Choice
                className="bare"
                aria-label="Reason"
                value={rule.kind}
                disabled={locked}
                onChange={(to) =>
                  set(index, {
                    kind: to,
                    figure: undefined,
                    orderKind: to === 'ORDER_KIND' ? 'SAMPLE' : undefined,
                  })
                }
              >
                {KINDS.map(([kind, says]) => (
                  <option key={kind} value={kind}>
                    {says}
                  </option>
                ))}
              </Choice>
            ),
          },
          {
            cell: (rule, index) =>
              rule.kind === 'ORDER_KIND' ? (
                <Choice
                  className="bare"
                  aria-label="Kind of order"
                  value={rule.orderKind ?? ''}
                  disabled={locked}
                  onChange={(to) => set(index, { orderKind: to || null })}
                >
                  {ORDER_KINDS.map((kind) => (
                    <option key={kind} value={kind}>
                      {words(kind)}
                    </option>
                  ))}
                </Choice>
              ) : rule.kind === 'NET_ABOVE' || rule.kind === 'DISCOUNT_ABOVE' ? (
                <FigureInput
                  width={110}
                  label="Figure"
                  value={rule.figure ?? ''}
                  disabled={locked}
                  onChange={(figure) => set(index, { figure })}
                />
              ) : null,
          },
          {
            head: 'by',
            cell: (rule, index) => (
              <Choice
                className="bare"
                aria-label="Level"
                value={rule.level}
                disabled={locked}
                onChange={(to) => set(index, { level: to })}
              >
                <option value="CONTROLLER">a controller</option>
                <option value="LEAD">the finance lead</option>
              </Choice>
            ),
          },
          {
            cell: (_, index) =>
              !locked && (
                <button className="plain small" onClick={() => setEdited(rules.filter((_, at) => at !== index))}>
                  remove
                </button>
              ),
          },
        ]}
      />
      <ProblemNote problem={publish.error} />
      {!locked && (
        <div className="row gap-10 above-14">
          <button
            className="button"
            onClick={() => setEdited([...rules, { kind: 'NET_ABOVE', figure: '', level: 'CONTROLLER' }])}
          >
            + rule
          </button>
          {edited && (
            <>
              <button
                className="button first"
                disabled={publish.isPending}
                onClick={() => publish.mutate(rules.map((rule) => ({ ...rule, figure: rule.figure || undefined })))}
              >
                Publish rules
              </button>
              <button className="button" onClick={() => setEdited(null)}>
                Reset
              </button>
            </>
          )}
        </div>
      )}
    </>
  );
}
