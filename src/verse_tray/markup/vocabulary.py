"""Elements and attributes that the HTML standard knows, the obsolete ones that browsers still heed included."""

from __future__ import annotations

ELEMENTS = frozenset(
    "a abbr acronym address applet area article aside audio b base basefont bdi bdo bgsound big blink blockquote body "
    "br button canvas caption center cite code col colgroup data datalist dd del details dfn dialog dir div dl dt em "
    "embed fencedframe fieldset figcaption figure font footer form frame frameset h1 h2 h3 h4 h5 h6 head header "
    "hgroup hr html i iframe img input ins isindex kbd keygen label legend li link listing main map mark marquee math "
    "menu menuitem meta meter nav nobr noembed noframes noscript object ol optgroup option output p param picture "
    "plaintext portal pre progress q rb rp rt rtc ruby s samp script search section select selectedcontent slot small "
    "source span strike strong style sub summary sup svg table tbody td template textarea tfoot th thead time title "
    "tr track tt u ul var video wbr xmp image noindex".split()
)
"""Names of HTML elements."""

GLOBAL_ATTRIBUTES = frozenset(
    "accesskey anchor autocapitalize autocorrect autofocus class contenteditable dir draggable enterkeyhint exportparts "
    "headingoffset headingreset hidden id inert inputmode interestfor is itemid itemprop itemref itemscope itemtype lang "
    "nonce part popover role slot spellcheck style tabindex title translate virtualkeyboardpolicy writingsuggestions "
    "about content datatype inlist prefix property rel resource rev typeof vocab xmlns xml:lang xml:space".split()
)
"""Attributes that every element may have, those of RDFa among them."""

_TABLE_CELL = "abbr align axis bgcolor char charoff colspan headers height nowrap rowspan scope valign width background"
_MEDIA = (
    "autoplay controls controlslist crossorigin disablepictureinpicture disableremoteplayback loop muted preload src"
)
_ROWS = "align bgcolor char charoff valign height"
_OWN = {
    "a": "attributionsrc charset coords download href hreflang name ping referrerpolicy rel rev shape target type",
    "applet": "align alt archive code codebase height hspace name object vspace width",
    "area": "alt coords download href hreflang nohref ping referrerpolicy rel shape target type",
    "audio": _MEDIA,
    "base": "href target",
    "basefont": "color face size",
    "bdo": "dir",
    "blockquote": "cite",
    "body": "alink background bgcolor bottommargin leftmargin link marginheight marginwidth rightmargin text topmargin vlink",
    "br": "clear",
    "button": "command commandfor disabled form formaction formenctype formmethod formnovalidate formtarget name "
    "popovertarget popovertargetaction type value",
    "canvas": "height width",
    "caption": "align",
    "col": "align bgcolor char charoff span valign width",
    "colgroup": "align bgcolor char charoff span valign width",
    "data": "value",
    "del": "cite datetime",
    "details": "name open",
    "dialog": "closedby open",
    "dir": "compact",
    "div": "align nowrap",
    "dl": "compact",
    "embed": "align height hspace name src type vspace width allow allowfullscreen",
    "fieldset": "disabled form name",
    "font": "color face size",
    "form": "accept accept-charset action autocomplete enctype method name novalidate rel target",
    "frame": "bordercolor frameborder longdesc marginheight marginwidth name noresize scrolling src",
    "frameset": "border bordercolor cols frameborder framespacing rows",
    **dict.fromkeys(("h1", "h2", "h3", "h4", "h5", "h6", "p", "legend"), "align"),
    "head": "profile",
    "hr": "align color noshade size width",
    "html": "manifest version",
    "iframe": "align allow allowfullscreen allowpaymentrequest allowtransparency border browsingtopics credentialless "
    "csp frameborder height hspace loading longdesc marginheight marginwidth name referrerpolicy sandbox "
    "scrolling src srcdoc vspace width mozallowfullscreen webkitallowfullscreen",
    "img": "align alt attributionsrc border crossorigin decoding fetchpriority height hspace ismap loading longdesc "
    "lowsrc name referrerpolicy sizes src srcset usemap vspace width",
    "input": "accept align alpha alt autocomplete border capture checked colorspace dirname disabled form formaction "
    "formenctype formmethod formnovalidate formtarget height hspace incremental list max maxlength min "
    "minlength multiple name pattern placeholder popovertarget popovertargetaction readonly required results "
    "size src step switch type usemap value vspace webkitdirectory width",
    "ins": "cite datetime",
    "label": "for form",
    "li": "type value",
    "link": "as blocking charset color crossorigin disabled fetchpriority href hreflang imagesizes imagesrcset "
    "integrity media methods referrerpolicy rel rev sizes target type",
    "map": "name",
    "marquee": "behavior bgcolor direction height hspace loop scrollamount scrolldelay truespeed vspace width",
    "menu": "compact label type",
    "meta": "charset content http-equiv media name scheme",
    "meter": "form high low max min optimum value",
    "object": "align archive border classid codebase codetype data declare form height hspace name standby type "
    "typemustmatch usemap vspace width",
    "ol": "compact reversed start type",
    "optgroup": "disabled label",
    "option": "disabled label name selected value",
    "output": "for form name",
    "param": "name type value valuetype",
    "pre": "cols width wrap",
    "progress": "max value",
    "q": "cite",
    "script": "async attributionsrc blocking charset crossorigin defer event fetchpriority for integrity language "
    "nomodule referrerpolicy src type",
    "select": "autocomplete disabled form multiple name required size",
    "slot": "name",
    "source": "height media sizes src srcset type width",
    "style": "blocking media type",
    "table": "align background bgcolor border bordercolor cellpadding cellspacing datapagesize frame height rules "
    "summary width hspace vspace cols",
    "tbody": _ROWS,
    "td": _TABLE_CELL,
    "template": "shadowrootclonable shadowrootcustomelementregistry shadowrootdelegatesfocus shadowrootmode "
    "shadowrootserializable",
    "textarea": "autocomplete cols dirname disabled form maxlength minlength name placeholder readonly required rows wrap",
    "tfoot": _ROWS,
    "th": _TABLE_CELL,
    "thead": _ROWS,
    "time": "datetime",
    "tr": _ROWS + " background",
    "track": "default kind label src srclang",
    "ul": "compact type",
    "video": f"{_MEDIA} height playsinline poster width webkit-playsinline",
    "xmp": "width",
}
ATTRIBUTES = {name: frozenset(attributes.split()) for name, attributes in _OWN.items()}
"""Attributes of single elements, besides the global ones."""

ARIA = frozenset(
    "activedescendant atomic autocomplete braillelabel brailleroledescription busy checked colcount colindex "
    "colindextext colspan controls current describedby description details disabled dropeffect errormessage expanded "
    "flowto grabbed haspopup hidden invalid keyshortcuts label labelledby level live modal multiline multiselectable "
    "orientation owns placeholder posinset pressed readonly relevant required roledescription rowcount rowindex "
    "rowindextext rowspan selected setsize sort valuemax valuemin valuenow valuetext".split()
)
"""Attributes of WAI-ARIA 1.3, without ``aria-`` in front."""

END_TAG_OPTIONAL = frozenset(
    "body caption colgroup dd dt head html li optgroup option p rb rp rt rtc tbody td tfoot th thead tr".split()
)
"""Elements whose end tag may be left out (13.1.2.4)."""

BOOLEAN = frozenset(
    "allowfullscreen async autofocus autoplay checked controls default defer disabled formnovalidate hidden inert "
    "ismap itemscope loop multiple muted nomodule novalidate open playsinline readonly required reversed "
    "selected".split()
)
"""Attributes that need no value (HTML standard, "Attributes" index: boolean attribute)."""
