-- Since when a card holds its image, and where the card itself lies (Z-5).
alter table medium add column held_since timestamptz;
alter table medium add column lies text not null default '';
