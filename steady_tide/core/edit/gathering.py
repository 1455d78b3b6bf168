"""An edit of a shoot: notes, tables of colours and the first assembly from the same shots."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.edit.assembly import Assembly, assembly_of
from steady_tide.core.edit.display import LookStyle, developing
from steady_tide.core.edit.luts import Lut, error_of, lut_of, shaped_lut_of
from steady_tide.core.edit.notes import EditNotes, EditShot, notes_of, whole_correction
from steady_tide.core.edit.phone import PhoneEdit, phone_edit
from steady_tide.core.gear.sheet import CameraSheet, Profile
from steady_tide.core.shoot.film import Film


@dataclass(frozen=True)
class Edit:
    """What is handed over. shots: in the shoot's order; films: by key; sheets: of their cameras, by id; look: on top of all, None for none."""

    title: str
    shots: tuple[EditShot, ...]
    films: Mapping[str, Film]
    sheets: Mapping[str, CameraSheet]
    knowledge: Knowledge
    look: LookStyle | None = None

    def notes(self) -> EditNotes:
        """Notes of all shots."""
        return notes_of(self.shots, self.knowledge)

    def assembly(self, film_key: str | None, notes: EditNotes) -> Assembly:
        """The first assembly. film_key: of the film that it follows, None for the kept takes of the day; notes: of the shots. Returns it."""
        film = None if film_key is None else self.films[film_key]
        shots = self.shots if film is None else _of_film(self.shots, film_key)
        return assembly_of(self.title if film is None else film.title, film, shots, notes, self.knowledge.limits)

    def phone(self) -> PhoneEdit | None:
        """For who edits on a phone; None where nobody does."""
        shot = next((one for one in self.shots if one.brief.delivery.edit_device == "phone" and one.plan), None)
        if shot is None or shot.plan is None:
            return None
        shapes = next((film.shapes for film in self.films.values()), ("16:9", *shot.brief.delivery.reframe))
        return phone_edit(shot.brief, shot.plan, self.sheets.get(shot.plan.camera), shapes)

    def display_names(self) -> tuple[str, ...]:
        """Names of the tables of profiles in use, without those with a shaper."""
        return tuple(self._named())

    def display_luts(self) -> dict[str, Lut]:
        """A table for each profile in use, by name; where it is off by more than a code, another with a shaper beside it."""
        made: dict[str, Lut] = {}
        for name, (profile, camera) in self._named().items():
            how = developing(profile, self.knowledge.limits, look=self.look)
            made[name] = lut_of(how, f"{profile.id} of {camera.name} to display")
            if error_of(made[name], how).most > self.knowledge.limits.edit_lut_codes:
                made[f"{name}-shaped"] = shaped_lut_of(how, f"{profile.id} of {camera.name} to display, shaped")
        return made

    def _named(self) -> dict[str, tuple[Profile, CameraSheet]]:
        """Profiles in use by the names of their tables: the same name may mean another curve on another camera."""
        named: dict[str, tuple[Profile, CameraSheet]] = {}
        for profile, camera in self._profiles():
            plain = f"display-{profile.id}"
            named[f"{plain}-{camera.id}" if plain in named else plain] = (profile, camera)
        return named

    def shot_luts(self, notes: EditNotes) -> dict[str, Lut]:
        """A table for each shot, by name: its profile to display with its correction, and the look on top."""
        made = {}
        done = {note.shot: whole_correction(note) for note in reversed(notes.clips)}
        for shot in self.shots:
            found = None if shot.plan is None else self._profile(shot)
            if found is None or shot.key not in done:
                continue
            how = developing(found, self.knowledge.limits, done[shot.key], self.look)
            made[f"shot-{shot.number}"] = lut_of(how, f"{shot.number} {shot.title}")
        return made

    def _profiles(self) -> Sequence[tuple[Profile, CameraSheet]]:
        found: dict[tuple[str, str], tuple[Profile, CameraSheet]] = {}
        for shot in self.shots:
            profile = self._profile(shot)
            if profile is not None and shot.plan is not None:
                camera = self.sheets[shot.plan.camera]
                found.setdefault((profile.id, camera.id), (profile, camera))
        return list(found.values())

    def _profile(self, shot: EditShot) -> Profile | None:
        sheet = None if shot.plan is None else self.sheets.get(shot.plan.camera)
        if sheet is None or shot.plan is None:
            return None
        return next((one for one in sheet.profiles if one.id == shot.plan.settings.profile), None)


def _of_film(shots: Sequence[EditShot], film_key: str | None) -> tuple[EditShot, ...]:
    return tuple(shot for shot in shots if shot.framing is not None and shot.framing.film == film_key)
