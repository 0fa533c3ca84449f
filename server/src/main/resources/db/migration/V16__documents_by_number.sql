-- Documents of several kinds are asked for at once, by an array of their numbers: the number comes first, since an array is looked up
-- in the first column of an index only.

drop index history_document;
create index history_document on history (document_number, document_kind, moment);

drop index journal_entry_document;
create index journal_entry_document on journal_entry (document_number, document_kind);

drop index refund_source;
create index refund_source on refund (source_number, source_kind);
