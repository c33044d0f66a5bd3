/**
 * Prints the plain closing line that the test script adds up.
 */
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

export default class CountReporter implements Reporter {
  private readonly outcomes = new Map<string, boolean>();

  onTestEnd(test: TestCase, result: TestResult): void {
    if (result.status !== 'skipped') this.outcomes.set(test.id, result.status === test.expectedStatus);
  }

  onEnd(): void {
    const all = [...this.outcomes.values()];
    console.log(`\n${all.filter((ok) => ok).length} passed, ${all.filter((ok) => !ok).length} failed`);
  }
}
