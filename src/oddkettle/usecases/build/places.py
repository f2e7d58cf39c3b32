"""Where parts stand and fittings sit, as the Build page gets it."""

from __future__ import annotations

from oddkettle.core.construction.design import Layout
from oddkettle.core.construction.enclosure.face_plan import FacePlan
from oddkettle.core.construction.enclosure.standing import Fit
from oddkettle.core.values.copying import copied
from oddkettle.results import build as doc


def report_places(layout: Layout) -> doc.MovedReport:
    """Enclosure, fit and faces: all that changes while something is dragged."""
    return doc.MovedReport(
        enclosure=doc.EnclosureReport(**vars(layout.enclosure), proposed=layout.proposed),
        fit=None if layout.fits is None else _fit(layout.fits),
        faces=None if layout.faces is None else _faces(layout.faces),
    )


def _fit(fits: Fit) -> doc.FitReport:
    return doc.FitReport(
        bodies=[
            copied(
                doc.BodyReport,
                s.body,
                x0=s.span[0][0],
                x1=s.span[0][1],
                y0=s.span[1][0],
                y1=s.span[1][1],
                z0=s.span[2][0],
                z1=s.span[2][1],
                turned=s.turned,
                pinned=s.pinned,
            )
            for s in fits.standing
        ],
        clashes=[copied(doc.ClashReport, c, bodies=list(c.bodies)) for c in fits.clashes],
        kg=fits.kg,
        centre_mm=list(fits.centre_mm),
        verdict=fits.verdict,
        lift=fits.lift,
    )


def _faces(faces: FacePlan) -> doc.FacesReport:
    return doc.FacesReport(
        sizes=[
            doc.FaceReport(face=face, width_mm=size[0], height_mm=size[1])
            for face, size in faces.sizes.items()
        ],
        fittings=[
            doc.FittingReport(
                **vars(m.fitting),
                face=m.face,
                x_mm=m.x_mm,
                y_mm=m.y_mm,
                pinned=m.pinned,
            )
            for m in faces.mounted
        ],
        faults=[
            doc.FaceFaultReport(face=f.face, items=list(f.items), text=f.text, remedy=f.remedy)
            for f in faces.faults
        ],
    )
