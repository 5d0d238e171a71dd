"""What a browser is started with."""

from __future__ import annotations

MOST_MEMORY = 1_024
"""Megabytes of the objects of a page's scripts; a page that needs more breaks down."""
_UNUSED = (
    "IsolateSandboxedIframes",  # a process of its own would escape the route, and lay out later
    "WebUIOmniboxPopup",  # what an address bar would show takes longer to load than a piece
    "WebUIOmniboxAimPopup",
    # and what the driver turns off, as the last list counts
    *("AimEnabled", "AvoidCorsURLLoaderRestartOnRedirect", "AvoidUnnecessaryBeforeUnloadCheckSync"),
    *("DestroyProfileOnBrowserClose", "HttpsFirstBalancedModeAutoEnable", "HttpsUpgrades", "LensOverlay"),
    *("MediaRouter", "NetworkTimeServiceQuerying", "OptimizationHints", "PaintHolding", "PreconnectToSearch"),
    "ThirdPartyStoragePartitioning",
)
_SETTINGS = (
    "imageAnimationPolicy=2",  # moving pictures show their first frame
    # a mouse, as the driver has it, as the last list counts: without a screen there is none
    *("primaryHoverType=2", "availableHoverTypes=2", "primaryPointerType=4", "availablePointerTypes=4"),
)
FLAGS = (
    "--host-resolver-rules=MAP * ~NOTFOUND",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--allow-browser-signin=false",
    "--disable-quic",
    "--force-webrtc-ip-handling-policy=disable_non_proxied_udp",
    "--webrtc-ip-handling-policy=disable_non_proxied_udp",
    f"--disable-features={','.join(_UNUSED)}",
    f"--blink-settings={','.join(_SETTINGS)}",
    "--force-color-profile=srgb",
    "--hide-scrollbars",
    f"--js-flags=--max-old-space-size={MOST_MEMORY}",
)
"""Its options, besides those of what drives it: nothing is asked for, and pages look the same on every machine."""
