import '@mantine/charts/styles.css';
import { BarChart } from '@mantine/charts';
import { figure } from '../format';
import type { Group } from './api';

/** Below it names of days are read one beside the other; more of them, or longer names, stand one below the other. */
const HEIGHT = 170;
const ROW = 24;

/** Groups of rows as bars; a bar opens the rows behind it. Loaded when it is needed. */
export default function Bars({
  of,
  measure,
  days,
  onOpen,
}: {
  of: Group[];
  measure: string;
  /** groups are days, in their sequence */
  days: boolean;
  onOpen: (group: Group) => void;
}) {
  const figures = of.filter((group) => group.measured !== null);
  // a day without any is a gap in the row of days; what else has none only stands among the figures
  const some = figures.filter((group) => days || Number(group.measured) !== 0);
  const told = some.length > 0 ? some : figures;
  const data = told.map((group) => ({ words: group.words, [measure]: Number(group.measured ?? 0) }));
  // there is no half of a row
  const counts = told.every((group) => Number(group.measured) === group.count);
  const open = (_: unknown, at: number) => {
    const group = told[at];
    if (group?.filter) onOpen(group);
  };
  return (
    <BarChart
      h={days ? HEIGHT : Math.max(HEIGHT, told.length * ROW)}
      data={data}
      dataKey="words"
      orientation={days ? 'horizontal' : 'vertical'}
      series={[{ name: measure, color: 'var(--rule-strong)' }]}
      xAxisProps={days ? undefined : { allowDecimals: !counts }}
      yAxisProps={days ? { width: 80, allowDecimals: !counts } : { width: 200, interval: 0 }}
      gridAxis="none"
      tickLine="none"
      valueFormatter={(value) => figure(String(value))}
      tooltipAnimationDuration={0}
      barProps={{ onClick: open, cursor: 'pointer', isAnimationActive: false, maxBarSize: 28 }}
    />
  );
}
