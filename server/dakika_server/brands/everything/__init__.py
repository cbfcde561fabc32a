"""Everything about a brand or a person: given out as a file, and erased."""

from dakika_server.brands.everything.erasing import erase_brand, erase_person
from dakika_server.brands.everything.giving import give_brand, person_as_text
from dakika_server.brands.everything.tables import BrandFile, brand_files, person_going

__all__ = ["BrandFile", "brand_files", "erase_brand", "erase_person", "give_brand", "person_as_text", "person_going"]
