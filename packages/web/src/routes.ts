/**
 * Addresses of the screens: all of them are for those who have an account. The public pages come from the server as they are.
 */
import type { Routes } from '@angular/router';
import { signedInGuard } from './data/session';
import { leaveGuard } from './knot/leave.guard';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'shelf' },
  { path: 'sign-in', title: 'Sign in', loadComponent: () => import('./sign-in/sign-in').then((m) => m.SignInPage) },
  { path: 'join', title: 'You are invited', loadComponent: () => import('./people/join').then((m) => m.JoinPage) },
  {
    path: 'account',
    title: 'Your account',
    canActivate: [signedInGuard],
    loadComponent: () => import('./people/account').then((m) => m.AccountPage),
  },
  {
    path: 'people',
    title: 'People',
    canActivate: [signedInGuard],
    loadComponent: () => import('./people/people').then((m) => m.PeoplePage),
  },
  {
    path: 'keeping',
    title: 'Keeping',
    canActivate: [signedInGuard],
    loadComponent: () => import('./people/keeping').then((m) => m.KeepingPage),
  },
  {
    path: 'words',
    title: 'Words',
    canActivate: [signedInGuard],
    loadComponent: () => import('./words/words').then((m) => m.WordsPage),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'terms' },
      { path: 'terms', loadComponent: () => import('./words/terms').then((m) => m.TermsPage) },
      { path: 'terms/:concept', loadComponent: () => import('./words/terms').then((m) => m.TermsPage) },
      { path: 'house', loadComponent: () => import('./words/house-words').then((m) => m.HouseWordsPage) },
      { path: 'disputes', loadComponent: () => import('./words/disputes').then((m) => m.DisputesPage) },
      { path: 'texts', loadComponent: () => import('./words/texts').then((m) => m.TextsPage) },
    ],
  },
  {
    path: 'kin',
    title: 'Kin',
    canActivate: [signedInGuard],
    loadComponent: () => import('./kin/kin').then((m) => m.KinPage),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'map' },
      { path: 'map', loadComponent: () => import('./kin/map/map').then((m) => m.KinMapPage) },
      { path: 'families', loadComponent: () => import('./kin/families').then((m) => m.FamiliesPage) },
      { path: 'relations', loadComponent: () => import('./kin/relations').then((m) => m.RelationsPage) },
      { path: 'discover', loadComponent: () => import('./kin/discover').then((m) => m.DiscoverPage) },
    ],
  },
  {
    path: 'choose',
    title: 'Choose',
    canActivate: [signedInGuard],
    loadComponent: () => import('./choose/choose').then((m) => m.ChoosePage),
  },
  {
    path: 'choose/compare',
    title: 'Side by side',
    canActivate: [signedInGuard],
    loadComponent: () => import('./choose/compare').then((m) => m.ComparePage),
  },
  {
    path: 'ropes',
    title: 'Ropes',
    canActivate: [signedInGuard],
    loadComponent: () => import('./ropes/ropes').then((m) => m.RopesPage),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'stock' },
      { path: 'stock', loadComponent: () => import('./ropes/stock').then((m) => m.StockPage) },
      { path: 'plans', loadComponent: () => import('./ropes/plans').then((m) => m.PlansPage) },
      { path: 'plans/:plan', loadComponent: () => import('./ropes/plans').then((m) => m.PlansPage) },
      { path: 'ties', loadComponent: () => import('./ropes/ties').then((m) => m.TiesPage) },
      { path: 'loads', loadComponent: () => import('./ropes/loads').then((m) => m.LoadsPage) },
      { path: 'tests', loadComponent: () => import('./ropes/tests').then((m) => m.TestsPage) },
      { path: 'camera', loadComponent: () => import('./ropes/camera').then((m) => m.CameraPage) },
    ],
  },
  {
    path: 'assemblies',
    title: 'Assemblies',
    canActivate: [signedInGuard],
    loadComponent: () => import('./assemblies/assemblies').then((m) => m.AssembliesPage),
    children: [
      { path: '', pathMatch: 'full', loadComponent: () => import('./assemblies/list').then((m) => m.AssemblyList) },
      { path: ':assembly', loadComponent: () => import('./assemblies/desk').then((m) => m.AssemblyDesk) },
      { path: ':assembly/inspect', loadComponent: () => import('./assemblies/inspect').then((m) => m.InspectPage) },
    ],
  },
  {
    path: 'courses',
    title: 'Courses',
    canActivate: [signedInGuard],
    loadComponent: () => import('./courses/courses').then((m) => m.CoursesPage),
    children: [
      { path: '', pathMatch: 'full', loadComponent: () => import('./courses/list').then((m) => m.CourseList) },
      { path: ':course', loadComponent: () => import('./courses/desk').then((m) => m.CourseDesk) },
    ],
  },
  {
    path: 'house',
    title: 'House rules',
    canActivate: [signedInGuard],
    loadComponent: () => import('./house/house').then((m) => m.HousePage),
  },
  {
    path: 'shelf',
    title: 'Shelf',
    canActivate: [signedInGuard],
    loadComponent: () => import('./shelf/shelf').then((m) => m.ShelfPage),
  },
  {
    path: 'knot/:id',
    canActivate: [signedInGuard],
    canDeactivate: [leaveGuard],
    loadComponent: () => import('./knot/knot').then((m) => m.KnotPage),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'draft' },
      { path: 'draft', title: 'Draft', loadComponent: () => import('./draft/draft').then((m) => m.DraftPage) },
      { path: 'proof', title: 'Proof', loadComponent: () => import('./proof/proof').then((m) => m.ProofPage) },
      { path: 'reel', title: 'Reel', loadComponent: () => import('./reel/reel').then((m) => m.ReelPage) },
      { path: 'reel/film', title: 'Film', loadComponent: () => import('./film/film').then((m) => m.FilmPage) },
      { path: 'kin', title: 'Kin', loadComponent: () => import('./kin/knot-kin').then((m) => m.KnotKinPage) },
      { path: 'review', title: 'Review', loadComponent: () => import('./review/review').then((m) => m.ReviewPage) },
      { path: 'sheet', title: 'Sheet', loadComponent: () => import('./sheet/sheet').then((m) => m.SheetPage) },
    ],
  },
  { path: '**', title: 'Not found', loadComponent: () => import('./ui/not-found').then((m) => m.NotFoundPage) },
];
