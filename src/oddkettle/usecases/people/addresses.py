"""Where other devices find this machine."""

from __future__ import annotations

from ipaddress import ip_address

import ifaddr
import segno


def own_addresses(host: str) -> list[str]:
    """The addresses of this machine that others can reach, IPv4 first; or `host` if it is one."""
    if not ip_address(host).is_unspecified:
        return [host]
    found = []
    for adapter in ifaddr.get_adapters():
        for entry in adapter.ips:
            text = entry.ip if isinstance(entry.ip, str) else entry.ip[0]
            ip = ip_address(text)
            # Of six and of four alike; addresses of a single link need their link's name.
            if not (ip.is_loopback or ip.is_link_local) and (ip.version == 4 or ":" in host):
                found.append(str(ip))
    return sorted(set(found), key=lambda text: (":" in text, text))


def url_at(address: str, port: int) -> str:
    """Where a browser finds it."""
    return f"http://{f'[{address}]' if ':' in address else address}:{port}"


def qr_image(text: str) -> str:
    """The text as a QR code: an SVG picture in a data URI."""
    return str(segno.make(text, error="m").svg_data_uri(scale=6, border=3, light="#fff"))
