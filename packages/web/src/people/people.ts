/**
 * People: who has an account and what they may do; and who is invited. Shown to the owners of a house.
 */
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { HOUSE_ROUTES, ROLES, type People, type Person, type Role } from '@foxtrail/contract';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { SessionService } from '../data/session';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';

/** What each role may do, in a line. */
const MAY: Readonly<Record<Role, string>> = {
  owner: 'writes, and invites people',
  author: 'drafts, proves and publishes',
  reviewer: 'reads drafts and reviews them',
  reader: 'reads drafts',
};

/** An invitation that was just made. */
interface Made {
  readonly name: string;
  readonly link: string;
}

@Component({
  selector: 'ft-people',
  imports: [DatePipe, MatButtonModule, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people.html',
  styleUrl: './people.scss',
})
export class PeoplePage {
  private readonly api = inject(Api);
  protected readonly sessions = inject(SessionService);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly busy = this.attempt.busy;
  protected readonly state = signal<People | undefined>(undefined);
  protected readonly made = signal<Made | undefined>(undefined);
  protected readonly copied = signal(false);
  protected readonly roles = ROLES.map((value) => ({ value, name: `${value}: ${MAY[value]}` }));
  protected role: Role = 'author';

  constructor() {
    this.load();
  }

  protected load(): void {
    void this.attempt.run(this.api.call(HOUSE_ROUTES.people), (people) => this.state.set(people));
  }

  protected invite(field: HTMLInputElement): void {
    const [name, role] = [field.value.trim(), this.role];
    if (this.busy()) return;
    if (name === '') {
      this.attempt.trouble.set('Say who is invited: the name is what they sign in by.');
      field.focus();
      return;
    }
    void this.attempt.run(this.api.call(HOUSE_ROUTES.invite, { body: { name, role } }), ({ token }) => {
      this.made.set({ name, link: `${location.origin}/join#${token}` });
      this.copied.set(false);
      field.value = '';
      this.load();
    });
  }

  protected async copy(link: string): Promise<void> {
    await navigator.clipboard.writeText(link).then(
      () => this.copied.set(true),
      () => this.attempt.trouble.set('It could not be copied. Select it, and copy it by hand.'),
    );
  }

  protected takeBack(name: string): void {
    if (this.made()?.name === name) this.made.set(undefined);
    void this.attempt.run(this.api.call(HOUSE_ROUTES.uninvite, { body: { name } }), () => this.load());
  }

  protected change({ id, role, closed }: Person, change: Partial<Pick<Person, 'role' | 'closed'>>): void {
    const body = { role, closed, ...change };
    // What was refused is shown as it is.
    void this.attempt
      .run(this.api.call(HOUSE_ROUTES.changePerson, { parameters: { person: id }, body }))
      .then((done) => (done ? this.load() : this.state.update((s) => s && { ...s })));
  }
}
