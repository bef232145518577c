import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { init as start, use as take } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

/** A chart with the parts of ECharts in use, and no others: fetched when one is shown. Taken twice, they are taken once. */
export const init: typeof start = (...args) => {
  take([LineChart, GridComponent, SVGRenderer]);
  return start(...args);
};
