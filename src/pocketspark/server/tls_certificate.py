"""A certificate of our own for devices on the same network: made at first use, kept beside the data."""

import socket
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

CERTIFICATE, KEY = "certificate.pem", "certificate-key.pem"
LASTS = timedelta(days=820)


def own_names() -> list[str]:
    """Names and addresses that this machine has on its network, the one that others reach it by first."""
    name = socket.gethostname().lower()
    found = [address for address in (_outward_address(),) if address]
    with suppress(OSError):
        found += [str(info[4][0]) for info in socket.getaddrinfo(name, None, socket.AF_INET)]
    local = [name, f"{name}.local"] if name and "." not in name else [name]
    return list(dict.fromkeys(entry for entry in [*found, *local] if entry))


def _outward_address() -> str:
    """The address that packets to other machines leave by. Nothing is sent for it."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # an address for documentation (RFC 5737): never reached
            return str(probe.getsockname()[0])
        except OSError:
            return ""


def certificate_in(folder: Path, names: list[str]) -> tuple[Path, Path]:
    """The certificate's file and its key's; made anew where there is none, it names others, or it runs out."""
    certificate, key = folder / CERTIFICATE, folder / KEY
    if not (certificate.is_file() and key.is_file() and _is_good(certificate, names)):
        _make(certificate, key, names)
    return certificate, key


# Five letters for sixteen bits, to be read aloud: "proquints", D. S. Wilkerson, arXiv:0901.4016 (from memory).
_CONSONANTS, _VOWELS = "bdfghjklmnprstvz", "aiou"
_WORDS = 6


def fingerprint_in_words(certificate: Path) -> str:
    """The beginning of its SHA-256 fingerprint, ninety-six bits, as six words."""
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes

    digest = x509.load_pem_x509_certificate(certificate.read_bytes()).fingerprint(hashes.SHA256())
    return " ".join(_word(int.from_bytes(digest[at : at + 2])) for at in range(0, 2 * _WORDS, 2))


def _word(bits: int) -> str:
    """Consonant, vowel, consonant, vowel, consonant: four, two, four, two and four bits."""
    return "".join(
        letters[bits >> shift & len(letters) - 1]
        for letters, shift in ((_CONSONANTS, 12), (_VOWELS, 10), (_CONSONANTS, 6), (_VOWELS, 4), (_CONSONANTS, 0))
    )


def _is_good(file: Path, names: list[str]) -> bool:
    from cryptography import x509

    try:
        certificate = x509.load_pem_x509_certificate(file.read_bytes())
        named = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (ValueError, x509.ExtensionNotFound):
        return False
    held = {str(entry.value) for entry in named}
    return set(names) <= held and certificate.not_valid_after_utc > datetime.now(UTC) + timedelta(days=7)


def _make(certificate: Path, key: Path, names: list[str]) -> None:
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes, serialization
    from cryptography.hazmat.primitives.asymmetric import ec
    from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

    private = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Pocket Spark on this computer")])
    moment = datetime.now(UTC)
    made = (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(subject)
        .public_key(private.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(moment - timedelta(days=1))
        .not_valid_after(moment + LASTS)
        .add_extension(x509.SubjectAlternativeName([_general_name(name) for name in names]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(private, hashes.SHA256())
    )
    plain = serialization.NoEncryption()
    secret = private.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, plain)
    key.touch(mode=0o600)
    key.chmod(0o600)
    key.write_bytes(secret)
    certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _general_name(name: str):  # type: ignore[no-untyped-def]  # a type of a package that is imported where it is used
    from cryptography import x509

    try:
        return x509.IPAddress(ip_address(name))
    except ValueError:
        return x509.DNSName(name)
