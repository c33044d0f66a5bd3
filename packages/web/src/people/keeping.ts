/**
 * Keeping: what the house holds, how long every save is kept, and the library as one file, out and in. Shown to the owners of a house.
 */
import { DatePipe, DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { HOUSE_ROUTES, type ArchiveTold, type Held } from '@foxtrail/contract';
import { Subject, takeUntil } from 'rxjs';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { Icons } from '../ui/icons';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';

/** Days after which a house is to be backed up again. */
const BACKED_UP = 7;

/** How long every save may be kept, in days; for good is the empty one. */
const SPANS = [
  { value: '', name: 'for good' },
  { value: '1825', name: 'five years' },
  { value: '730', name: 'two years' },
  { value: '365', name: 'a year' },
  { value: '90', name: 'three months' },
  { value: '30', name: 'a month' },
] as const;

/** What servers do by themselves, in words. */
const JOBS: Readonly<Record<Held['jobs'][number]['kind'], string>> = {
  count: 'Knots counted anew',
  kin: 'Kinship tried anew',
  form: 'Knots set, for cards',
  slips: 'Slips set, for practice',
};

@Component({
  selector: 'ft-keeping',
  imports: [
    DatePipe,
    DecimalPipe,
    FormsModule,
    MatButtonModule,
    MatCheckboxModule,
    MatIconModule,
    MatProgressBarModule,
    Select,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './keeping.html',
  styleUrl: './people.scss',
})
export class KeepingPage {
  private readonly api = inject(Api);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly busy = this.attempt.busy;
  protected readonly held = signal<Held | undefined>(undefined);
  protected readonly archive = HOUSE_ROUTES.writeArchive.path;

  /** The span that is looked at, before it is chosen; and how many saves it lets go. */
  private readonly wanted = signal<string | undefined>(undefined);
  protected readonly goes = signal<number | undefined>(undefined);
  protected readonly span = computed(() => this.wanted() ?? String(this.held()?.keepDays ?? ''));
  protected readonly spans = SPANS;
  protected readonly jobs = JOBS;

  /** How far what is done by itself has come. */
  protected goesOn({ left, inHand, servers }: Held['jobs'][number]): string {
    if (left === 0 && inHand === 0) return 'nothing left';
    const by = servers > 1 ? ` by ${servers} servers` : '';
    return `${left.toLocaleString('en')} left${inHand > 0 ? `, ${inHand} of them worked on${by}` : ''}`;
  }

  protected readonly chosen = signal<File | undefined>(undefined);
  protected readonly told = signal<ArchiveTold | undefined>(undefined);
  protected readonly taken = signal(false);
  /** How much of the archive has been sent, from 0 to 1. */
  protected readonly sent = signal<number | undefined>(undefined);
  private readonly stopped = new Subject<void>();
  protected withHouse = false;
  protected withWords = false;

  constructor() {
    inject(Icons);
    this.load();
  }

  private load(): void {
    void this.attempt.run(this.api.call(HOUSE_ROUTES.held), (held) => this.held.set(held));
  }

  /** Days since the last backup, as far as that is to be said; none: lately. */
  protected readonly unsaved = computed(() => {
    const backup = this.held()?.backup;
    if (!backup) return undefined;
    const days = Math.floor((Date.now() - Date.parse(backup.at)) / 86_400_000);
    return days > BACKED_UP ? days : undefined;
  });

  protected size(bytes: number): string {
    return bytes < 1024 ** 3 ? `${(bytes / 1024 ** 2).toFixed(1)} MiB` : `${(bytes / 1024 ** 3).toFixed(2)} GiB`;
  }

  private readonly days = (): number | null => (this.span() === '' ? null : Number(this.span()));

  protected choose(span: string): void {
    this.wanted.set(span);
    this.goes.set(undefined);
    if (this.days() === this.held()?.keepDays) return;
    void this.attempt.run(this.api.call(HOUSE_ROUTES.keep, { body: { days: this.days(), look: true } }), ({ goes }) =>
      this.goes.set(goes),
    );
  }

  protected leave(): void {
    this.wanted.set(undefined);
    this.goes.set(undefined);
  }

  protected keep(): void {
    void this.attempt.run(this.api.call(HOUSE_ROUTES.keep, { body: { days: this.days() } }), () => {
      this.leave();
      this.load();
    });
  }

  protected look(field: HTMLInputElement): void {
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    this.chosen.set(file);
    this.told.set(undefined);
    this.taken.set(false);
    this.send(file, false);
  }

  protected take(): void {
    const file = this.chosen();
    if (file) this.send(file, true);
  }

  protected stop(): void {
    this.stopped.next();
  }

  private send(file: File, take: boolean): void {
    this.sent.set(0.001);
    const asked = { take: `${take}`, house: `${this.withHouse}`, words: `${this.withWords}` } as const;
    const sending = this.api.sendArchive(file, asked, (share) => this.sent.set(share)).pipe(takeUntil(this.stopped));
    void this.attempt
      .run(sending, (told: ArchiveTold | undefined) => {
        if (!told) return;
        this.told.set(told);
        this.taken.set(take);
      })
      .then(() => {
        this.sent.set(undefined);
        if (take) this.load();
      });
  }

  /** How many parts become what, in words. */
  protected readonly counted = computed(() => {
    const told = this.told()?.told ?? [];
    const of = (becomes: ArchiveTold['told'][number]['becomes']): number =>
      told.filter((t) => t.becomes === becomes).length;
    return [
      `${of('new')} ${this.taken() ? 'taken' : 'new'}`,
      `${of('there already')} here already`,
      `${of('left')} left`,
      `${of('refused')} refused`,
    ].join(', ');
  });
  protected readonly wrong = computed(() => (this.told()?.told ?? []).filter((t) => t.becomes === 'refused'));
}
