import { useEffect, useRef } from 'react';
import { formatPosition, type Axis } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import type { Domain } from '#core/strip/index.ts';
import type { FitResult } from '#core/window/index.ts';
import { words } from '../../messages/index.ts';

type Props = { axis: Axis; result: FitResult; domain: Domain; dots: { position: number; grade: Grade }[] };

/** Shapes of the grade marks as ECharts knows them. */
const symbols: Record<Grade, string> = {
  uncut: 'path://M0 4h12v3H0z',
  hangs: 'path://M0 10L6 0L12 10H8.5L6 5.5L3.5 10z',
  clean: 'circle',
  scored: 'path://M0 2L2 0L6 4L10 0L12 2L8 6L12 10L10 12L6 8L2 12L0 10L4 6z',
  through: 'rect',
};

/** The chart as ECharts is told it: a line is the one kind of series, so that no further part of the library is fetched. */
function chanceOption({ axis, result, domain, dots }: Props, ink: (name: string) => string) {
  const { curve, window: open, recommended } = result.summary;
  const shown = (p: number) => formatPosition(axis, Math.round(p));
  const points = curve.positions.map((p, i) => [p, curve.mean[i]!, curve.low[i]!, curve.high[i]!] as const);
  const text = { color: ink('--muted'), fontFamily: 'inherit', fontSize: 15 };
  return {
    animation: false,
    textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
    grid: { left: 56, right: 20, top: 40, bottom: 54 },
    xAxis: {
      type: 'value',
      min: domain.from,
      max: domain.to,
      name: axis.word,
      nameLocation: 'middle',
      nameGap: 32,
      nameTextStyle: text,
      ...(axis.kind === 'dial' ? { interval: axis.halves ? 2 : 1 } : {}),
      axisLabel: {
        ...text,
        // The ends of the stretch are no round numbers: theirs would lie on their neighbours'.
        showMinLabel: false,
        showMaxLabel: false,
        hideOverlap: true,
        formatter: (v: number) => (Number.isInteger(v) && v >= domain.from && v <= domain.to ? shown(v) : ''),
      },
      axisLine: { lineStyle: { color: ink('--edge') } },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: 1,
      interval: 0.25,
      axisLabel: { ...text, formatter: (v: number) => `${Math.round(v * 100)} %` },
      splitLine: { lineStyle: { color: ink('--rule') } },
    },
    series: [
      {
        type: 'line',
        data: points.map((p) => [p[0], p[2]]),
        stack: 'band',
        symbol: 'none',
        lineStyle: { opacity: 0 },
        silent: true,
      },
      {
        type: 'line',
        data: points.map((p) => [p[0], p[3] - p[2]]),
        stack: 'band',
        symbol: 'none',
        lineStyle: { opacity: 0 },
        areaStyle: { color: ink('--g-clean'), opacity: 0.22 },
        silent: true,
      },
      {
        type: 'line',
        data: points.map((p) => [p[0], p[1]]),
        symbol: 'none',
        smooth: 0.3,
        smoothMonotone: 'x',
        lineStyle: { color: ink('--g-clean'), width: 3 },
      },
      // The number to set, and the window: lines like the others, so that no further part of the library is fetched for them.
      ...(recommended
        ? [
            {
              type: 'line',
              data: [
                [recommended.position, 0],
                [recommended.position, 1],
              ],
              symbol: 'none',
              silent: true,
              lineStyle: { color: ink('--ink'), width: 3 },
              endLabel: {
                show: true,
                formatter: shown(recommended.position),
                position: 'top',
                align: 'center',
                distance: 14,
                color: ink('--ink'),
                fontWeight: 'bold',
                fontSize: 17,
              },
            },
          ]
        : []),
      ...(open
        ? [
            {
              type: 'line',
              data: [
                [open.low, 1],
                [open.high, 1],
              ],
              symbol: 'none',
              silent: true,
              lineStyle: { opacity: 0 },
              areaStyle: { color: ink('--g-clean'), opacity: 0.16 },
            },
          ]
        : []),
      ...(['uncut', 'hangs', 'clean', 'scored', 'through'] as const).map((grade) => ({
        // Marks without a line: one kind of series for all.
        type: 'line',
        lineStyle: { opacity: 0 },
        showSymbol: true,
        data: dots
          .filter((d) => d.grade === grade && d.position >= domain.from && d.position <= domain.to)
          .map((d) => [d.position, grade === 'clean' ? 0.985 : 0.015]),
        symbol: symbols[grade],
        symbolSize: 13,
        symbolKeepAspect: true,
        clip: false,
        z: 10,
        itemStyle:
          grade === 'clean'
            ? { color: '#fffdf8', borderColor: '#20242b', borderWidth: 2 }
            : { color: ink('--ink'), borderColor: ink('--ground'), borderWidth: 1 },
        silent: true,
      })),
    ],
  };
}

/** P(clean) along the axis: the curve, its credible band, the window, and the cells that say so. ECharts is fetched when it is shown. */
export function ChanceChart({ axis, result, domain, dots }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let gone = false;
    let dispose = () => {};
    void import('../base/echarts.ts').then(({ init }) => {
      if (gone || !holder.current) return;
      const css = getComputedStyle(document.documentElement);
      const ink = (name: string) => css.getPropertyValue(name).trim();
      const chart = init(holder.current, undefined, { renderer: 'svg' });
      chart.setOption(chanceOption({ axis, result, domain, dots }, ink));
      const fit = new ResizeObserver(() => chart.resize());
      fit.observe(holder.current);
      dispose = () => {
        fit.disconnect();
        chart.dispose();
      };
    });
    return () => {
      gone = true;
      dispose();
    };
  }, [axis, result, domain, dots]);
  return <div className="chart" ref={holder} role="img" aria-label={`${words.result.chance}. ${result.sentence}`} />;
}
