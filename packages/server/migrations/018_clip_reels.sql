-- A clip may show one of its method's reels: its place in order, from 0; null shows the steps as they are tied.
alter table clip add column reel int check (reel >= 0);
