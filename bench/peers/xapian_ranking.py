"""Answers Bench\\RankingSuite: takes titles and texts line by line up to `null`, then for each question (words, whether any
of them will do, and whether other endings do) prints the numbers of the ten best texts."""

import json
import sys

import xapian

# Terms as written have no prefix, stems have Z: both are there, as they are for search in one database.
stemmer = xapian.Stem('en')
database = xapian.WritableDatabase('', xapian.DB_BACKEND_INMEMORY)
generator = xapian.TermGenerator()
generator.set_stemmer(stemmer)
generator.set_stemming_strategy(xapian.TermGenerator.STEM_SOME)
for line in sys.stdin:
    given = json.loads(line)
    if given is None:
        break
    document = xapian.Document()
    generator.set_document(document)
    generator.set_termpos(0)
    for text in given:
        generator.index_text(text)
        generator.increase_termpos(100)
    database.add_document(document)
enquire = xapian.Enquire(database)
for line in sys.stdin:
    words, any_word, endings = json.loads(line)
    terms = ['Z' + stemmer(word.encode()).decode() for word in words] if endings else words
    enquire.set_query(xapian.Query(xapian.Query.OP_OR if any_word else xapian.Query.OP_AND, terms))
    print(json.dumps([match.docid for match in enquire.get_mset(0, 10)]), flush=True)
