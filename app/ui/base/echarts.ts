import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { init, use as take } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

/** The parts of ECharts in use, and no others: fetched when a chart is shown. */
take([LineChart, GridComponent, SVGRenderer]);

export { init };
