-- One concept, one word: names that are stored are those of docs/glossary.md.

update finding set evidence_type = 'StockShortage' where evidence_type = 'Short';
