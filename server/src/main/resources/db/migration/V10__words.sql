-- One concept, one word: tables, columns and stored names are those of docs/glossary.md.

alter table outline rename to sales_agreement;
alter table outline_line rename to sales_agreement_line;
alter table outline_call rename to sales_agreement_call;
alter table outline_change rename to sales_agreement_change;
alter table sales_agreement_line rename column outline_id to agreement_id;
alter table sales_agreement_call rename column outline_id to agreement_id;
alter table sales_agreement_change rename column outline_id to agreement_id;
alter table sales_order rename column outline_id to agreement_id;
alter index outline_list rename to sales_agreement_list;
alter index outline_customer rename to sales_agreement_customer;
alter index outline_due rename to sales_agreement_due;
alter index outline_change_outline rename to sales_agreement_change_agreement;
alter index sales_order_outline rename to sales_order_agreement;

alter table intake rename to import_log;
alter table sales_order rename column intake_reference to import_reference;

alter table house_rules rename to company_rules;
alter table sweep_run rename to daily_recheck;

-- stock counts begin a series of their own; the corrections of before keep their numbers
alter table stock_correction rename to stock_count;
alter table stock_count rename column corrected_on to counted_on;
alter index stock_correction_item rename to stock_count_item;
create sequence stock_count_number start with 1001;
update history set document_kind = 'STOCK_COUNT' where document_kind = 'STOCK_CORRECTION';
update journal_entry set document_kind = 'STOCK_COUNT' where document_kind = 'STOCK_CORRECTION';

update batch set kind = 'REMINDERS' where kind = 'REMINDING';
update batch set kind = 'RETURN_REMINDERS' where kind = 'RETURN_REMINDING';

update finding set evidence_type = 'StockShortage' where evidence_type = 'Short';

-- sentences of the history that we wrote, by how they begin; what people gave as a reason behind them stays as it is
update history set sentence = 'submitted' where sentence = 'handed in';
update history set sentence = 'waived: ' || substring(sentence from 11) where sentence like 'let pass: %';
update history set sentence = 'unallocated from the invoice' || substring(sentence from 22) where sentence like 'taken off the invoice%';
update history set sentence = 'unapplied from invoice ' || substring(sentence from 19) where sentence like 'taken off invoice %';
update history set sentence = 'applied to invoice ' || substring(sentence from 21) where sentence like 'set against invoice %';
update history set sentence = 'reversed, never departed' || substring(sentence from 23) where sentence like 'taken back, never left%';
update history set sentence = 'no more goods are accepted' || substring(sentence from 40) where sentence like 'what has not come may not come any more%';
update history set sentence = 'goods received into inspection' || substring(sentence from 33) where sentence like 'goods came back, into inspection%';
update history set sentence = 'stock counted' || substring(sentence from 16) where sentence like 'count corrected%';
update history set sentence = 'posted manually' || substring(sentence from 15) where sentence like 'posted by hand%';
update history set sentence = replace(sentence, ' moved here from order ', ' moved from order ') where document_kind = 'DEPOSIT' and sentence like '% moved here from order %';
update history set sentence = replace(sentence, ' turned into customer credit', ' moved to customer credit') where document_kind = 'DEPOSIT' and sentence like '% turned into customer credit%';
update history set sentence = replace(sentence, ' given back', ' refunded') where document_kind = 'REFUND' and sentence like '% given back%';
update history set sentence = replace(replace(sentence, ', held for line ', ', reserved for line '), ', handed over to order ', ', transferred to order ') where sentence like '% of item %, held for line %, handed over to order %';
update history set sentence = replace(sentence, ' taken over for line ', ' transferred to line ') where sentence like '% of item % taken over for line % from order %';
update sales_agreement_change set sentence = 'skipped on ' || substring(sentence from 16) where sentence like 'passed over on %';
