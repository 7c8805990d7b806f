-- What a look at a card's true size found (W-6), as JSON; '' where nobody looked.
alter table medium add column true_size text not null default '';
