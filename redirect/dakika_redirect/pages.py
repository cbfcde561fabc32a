"""The few pages that visitors may meet: a link that is over, a page of links, an address that is not known."""

from html import escape

from dakika_redirect.copy_of_links import BrandFace, Page

_FRAME = """<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta name="robots" content="noindex"><title>{title}</title><style>
body{{font:17px/1.5 Georgia,serif;margin:0;background:#eff1ea;color:#18211c}}
main{{max-width:34rem;margin:0 auto;padding:12vh 1.4rem 3rem}}
h1{{font-size:1.7rem;line-height:1.25;margin:0 0 .6rem}}
a{{color:#9a2452}} ul{{list-style:none;padding:0;margin:1.6rem 0 0;border-top:1px solid #c9cdc2}}
li{{border-bottom:1px solid #c9cdc2}} li a{{display:block;padding:.8rem 0;text-decoration:none;font-size:1.1rem}}
li a:hover,li a:focus{{text-decoration:underline}}
@media(prefers-color-scheme:dark){{body{{background:#121714;color:#e4eae1}}a{{color:#f083ab}}ul,li{{border-color:#333c36}}}}
</style></head><body><main>{body}</main></body></html>"""
OVER_WORDS = "What this link led to is over."


def over(face: BrandFace | None) -> str:
    """A link that is over or paused, in the brand's own words, with the way to where the brand is now."""
    name = face.name if face else ""
    words = escape((face.words if face else "") or OVER_WORDS)
    home = f'<p><a href="{escape(face.home)}">To {escape(name)}</a></p>' if face and face.home else ""
    return _FRAME.format(title=escape(name or "This link is over"), body=f"<h1>{escape(name)}</h1><p>{words}</p>{home}")


def links(page: Page, face: BrandFace | None) -> str:
    """A page of links; each leads through an address of its own, so that its clicks are told apart."""
    name = face.name if face else ""
    words = f"<p>{escape(page.words)}</p>" if page.words else ""
    entries = "".join(f'<li><a href="{escape(code)}">{escape(title)}</a></li>' for code, title in page.entries)
    inside = f"<ul>{entries}</ul>" if entries else "<p>Nothing is listed here at the moment.</p>"
    title = escape(f"{page.title}, {name}" if name and name not in page.title else page.title)
    return _FRAME.format(title=title, body=f"<h1>{escape(page.title)}</h1>{words}{inside}")


def unknown() -> str:
    """An address that leads nowhere."""
    return _FRAME.format(
        title="Not known", body="<h1>This link is not known</h1><p>It may have been cut short on its way here.</p>"
    )


def not_now() -> str:
    """Nothing can be said at the moment: better so than a wrong answer."""
    return _FRAME.format(title="A moment, please", body="<h1>A moment, please</h1><p>Try the link again shortly.</p>")
