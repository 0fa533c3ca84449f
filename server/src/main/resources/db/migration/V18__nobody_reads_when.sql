-- jobs know since when something is under way; these columns were filled and never read
alter table batch drop column touched_at;

alter table payout drop column claimed_at;
