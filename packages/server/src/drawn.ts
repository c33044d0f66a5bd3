/** How many pictures are kept; a picture is a few kilobytes. */
const KEPT = 1000;

/** Pictures already drawn, by what they were drawn of; those asked for last. One that is being drawn is drawn once for all who ask. */
export class Drawn {
  private readonly pictures = new Map<string, Promise<string>>();

  constructor(private readonly room = KEPT) {}

  of(key: string, draw: () => Promise<string>): Promise<string> {
    const known = this.pictures.get(key);
    const picture = known ?? draw();
    // Put last again: the first of the map is the one longest not asked for.
    this.pictures.delete(key);
    this.pictures.set(key, picture);
    if (!known) picture.catch(() => this.pictures.delete(key));
    const [oldest] = this.pictures.keys();
    if (this.pictures.size > this.room && oldest !== undefined) this.pictures.delete(oldest);
    return picture;
  }
}
