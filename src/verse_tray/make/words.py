"""Words that pieces show, in the languages of those who read them."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed


class Words(Struct, frozen=True):
    """Words of one language."""

    back: str
    """On a button: to the one before."""
    next: str
    """On a button: to the one behind."""
    of: str
    """Between a number and how many there are: 2 of 5."""
    pictures: str
    """What a row of pictures is, for screen readers."""
    first: str
    """On what brings the first picture back."""
    watch: str
    """In front of the title of a video, in a link to it."""
    map: str
    """In front of the title of a map, in a link to it."""


WORDS = {
    "en": Words("Back", "Next", "of", "Pictures", "Back to the first picture", "Watch", "Map"),
    "de": Words("Zurück", "Weiter", "von", "Bilder", "Zurück zum ersten Bild", "Ansehen", "Karte"),
    "fr": Words("Précédente", "Suivante", "sur", "Images", "Revenir à la première image", "Regarder", "Carte"),
    "es": Words("Anterior", "Siguiente", "de", "Imágenes", "Volver a la primera imagen", "Ver", "Mapa"),
    "it": Words("Indietro", "Avanti", "di", "Immagini", "Torna alla prima immagine", "Guarda", "Mappa"),
    "nl": Words("Vorige", "Volgende", "van", "Foto’s", "Terug naar de eerste foto", "Bekijk", "Kaart"),
    "pt": Words("Anterior", "Seguinte", "de", "Imagens", "Voltar à primeira imagem", "Ver", "Mapa"),
    "sv": Words("Tillbaka", "Nästa", "av", "Bilder", "Tillbaka till första bilden", "Se", "Karta"),
}
"""By the code of the language (BCP 47)."""


def words_of(language: str) -> Words:
    """Return the words of a language; of ``de-AT`` those of ``de``.

    Raises:
        InputError: there are none of it.
    """
    found = WORDS.get(language.lower().partition("-")[0])
    if found is None:
        raise InputError(
            f"--language {language}: there are words in {listed(WORDS, 20)}. Leave it out, and give words of your own."
        )
    return found
