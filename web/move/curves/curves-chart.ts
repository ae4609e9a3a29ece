import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { colourInRoom } from '../../session/choices/room.ts';

echarts.use([LineChart, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

export interface Curve {
  readonly name: string;
  readonly colour: string;
  /** Follows from the keys without being keyed. */
  readonly pale?: boolean;
  /** One a frame from frame 1 on; NaN leaves a gap. */
  readonly values: readonly number[];
}

export interface CurvesShown {
  readonly values: readonly Curve[];
  readonly valueUnit: string;
  readonly speeds: readonly Curve[];
  /** Faster than this strobes, px a frame. */
  readonly limit: number;
}

export type CurvesChart = echarts.ECharts;

const SIDES = { left: 64, right: 24 };

const FONT = 'Archivo Variable, sans-serif';

export const makeChart = (element: HTMLElement): CurvesChart =>
  echarts.init(element, null, { renderer: 'canvas' });

/** Colours of the room that the chart is drawn in. */
const roomColours = () => ({
  ink: colourInRoom('var(--color-ink)'),
  ink2: colourInRoom('var(--color-ink-2)'),
  rule: colourInRoom('var(--color-rule-light)'),
  fault: colourInRoom('var(--color-fault)'),
  raised: colourInRoom('var(--color-raised)'),
});

/** Values above, speeds below, one scale of frames. */
export function drawCurves(chart: CurvesChart, shown: CurvesShown): void {
  const { ink, ink2, rule, fault, raised } = roomColours();
  const line = ({ name, colour, pale, values }: Curve, grid: number) => ({
    name,
    type: 'line' as const,
    xAxisIndex: grid,
    yAxisIndex: grid,
    showSymbol: false,
    animation: false,
    sampling: 'lttb' as const,
    lineStyle: { color: colourInRoom(colour), width: 1.5, opacity: pale ? 0.4 : 1 },
    itemStyle: { color: colourInRoom(colour) },
    data: values.map((value, i) => [i + 1, Number.isFinite(value) ? value : '-']),
  });
  const strobing = {
    silent: true,
    symbol: 'none',
    animation: false,
    data: [
      {
        yAxis: shown.limit,
        lineStyle: { color: fault, type: 'dashed' as const, width: 1.5 },
        label: { formatter: 'strobes above', position: 'insideEndTop' as const, color: fault },
      },
    ],
  };
  const last = Math.max(2, ...[...shown.values, ...shown.speeds].map(({ values }) => values.length));
  const axis = (grid: number, name: string) => ({
    gridIndex: grid,
    type: 'value' as const,
    name,
    nameTextStyle: { color: ink, align: 'left' as const },
    axisLabel: { color: ink2, fontFamily: FONT },
    splitLine: { lineStyle: { color: rule } },
    scale: grid === 0,
  });
  const time = (grid: number) => ({
    gridIndex: grid,
    type: 'value' as const,
    min: 1,
    max: last,
    axisPointer: { label: { precision: 0 } },
    axisLabel: { show: grid === 1, color: ink2, fontFamily: FONT },
    splitLine: { show: false },
  });
  const values = shown.values.map((curve) => line(curve, 0));
  const speeds = shown.speeds.map((curve) => line(curve, 1));
  chart.setOption(
    {
      textStyle: { fontFamily: FONT, color: ink },
      tooltip: {
        trigger: 'axis',
        // In the picture itself: as HTML it would need styles that the page's policy does not take.
        renderMode: 'richText',
        backgroundColor: raised,
        textStyle: { color: ink },
        valueFormatter: (value: unknown) => (typeof value === 'number' ? value.toFixed(2) : '–'),
      },
      legend: {
        type: 'scroll',
        top: 4,
        left: 60,
        right: 20,
        textStyle: { color: ink, lineHeight: 18 },
        itemWidth: 16,
        itemHeight: 12,
      },
      grid: [
        { ...SIDES, top: 56, height: '36%' },
        { ...SIDES, top: '61%', bottom: 28 },
      ],
      xAxis: [time(0), time(1)],
      yAxis: [axis(0, shown.valueUnit), axis(1, 'px a frame')],
      series: [
        ...values,
        ...speeds.map((series, i) => (i === 0 ? { ...series, markLine: strobing } : series)),
      ],
    },
    { notMerge: true },
  );
}
