/** What is used of the charts’ library, which ships no types of its own. */
declare module 'plotly.js-basic-dist-min' {
  /** An element in which a chart has been drawn. */
  export interface ChartElement extends HTMLElement {
    on(
      event: 'plotly_click',
      heard: (event: { readonly points: readonly { readonly pointIndex: number }[] }) => void,
    ): void;
    removeAllListeners(event: 'plotly_click'): void;
  }
  export interface PlotlyCharts {
    react(element: HTMLElement, data: readonly object[], layout: object, config: object): Promise<ChartElement>;
    purge(element: HTMLElement): void;
  }
  const charts: PlotlyCharts;
  export default charts;
}
