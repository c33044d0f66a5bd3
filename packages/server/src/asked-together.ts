/**
 * A question that many ask at once, asked once for all of them. Who comes while it is under way is answered by the next time it is asked, so
 * that nobody hears what is older than their asking.
 */
export class AskedTogether<T> {
  private going: Promise<T> | undefined;
  private next: Promise<T> | undefined;

  constructor(private readonly ask: () => Promise<T>) {}

  /** Somebody waits for an answer. */
  get isAsked(): boolean {
    return this.going !== undefined || this.next !== undefined;
  }

  now(): Promise<T> {
    if (!this.going) return this.begin();
    this.next ??= this.going.then(
      () => this.begin(),
      () => this.begin(),
    );
    return this.next;
  }

  private begin(): Promise<T> {
    this.next = undefined;
    const asked = this.ask();
    this.going = asked;
    const over = (): void => {
      if (this.going === asked) this.going = undefined;
    };
    asked.then(over, over);
    return asked;
  }
}

/** As many such questions as there are keys; one that nobody waits for is forgotten. */
export class AskedByKey<T> {
  private readonly questions = new Map<string, AskedTogether<T>>();

  constructor(private readonly ask: (key: string) => Promise<T>) {}

  now(key: string): Promise<T> {
    const question = this.questions.get(key) ?? new AskedTogether(() => this.ask(key));
    this.questions.set(key, question);
    const answer = question.now();
    const over = (): void => {
      if (!question.isAsked) this.questions.delete(key);
    };
    answer.then(over, over);
    return answer;
  }
}
