/** Every unit test has the application's icons: none is asked of a server. */
import { inject, provideEnvironmentInitializer } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Icons } from '../ui/icons';

// eslint-disable-next-line no-restricted-syntax -- It is meant for every spec of the web.
beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideEnvironmentInitializer(() => inject(Icons))] });
});
