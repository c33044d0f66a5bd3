/** Under what a browser keeps how somebody stands with the practice of a knot. */
export const progressKey = (slug: string): string => `foxtrail-practice ${slug}`;
