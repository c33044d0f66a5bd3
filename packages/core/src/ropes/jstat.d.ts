declare module 'jstat' {
  /** The distributions of the library that are used here. */
  const jStat: {
    readonly studentt: { inv(p: number, degrees: number): number };
    readonly normal: { inv(p: number, mean: number, deviation: number): number };
    readonly noncentralt: { cdf(x: number, degrees: number, noncentrality: number): number };
  };
  export default jStat;
}
