//! The room's network: a second door, closed unless it is asked for. TLS with a certificate of its own, a passphrase, a
//! session a device, few attempts, and a list of who is in.

use argon2::Argon2;
use argon2::password_hash::{PasswordHasher, PasswordVerifier, phc::PasswordHash};
use rcgen::{CertifiedKey, generate_simple_self_signed};
use rustls::ServerConfig;
use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, PrivateKeyDer};
use std::fs;
use std::io::{self, Write};
use std::net::IpAddr;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// The fewest letters of a passphrase: it is typed on a tablet, and guessed over the network.
const FEWEST: usize = 8;
/// How many wrong passphrases one address may send before it must wait.
const TRIES: usize = 5;
/// How many all addresses together may.
const TRIES_OF_ALL: usize = 30;
/// How long a wrong passphrase counts.
const COUNTS: Duration = Duration::from_mins(15);
/// How long a device that does nothing stays in.
const IDLE: Duration = Duration::from_hours(12);

/// What the second door goes by, on the disk beside the record.
#[derive(Debug, Clone)]
pub struct Keys(PathBuf);

impl Keys {
    /// Beside the record in this file.
    pub fn beside(record: &Path) -> Self {
        Self(wedge_store::kept_beside(record, "-lan"))
    }

    /// Chooses the passphrase, of which only a hash is kept.
    pub fn choose(&self, passphrase: &str) -> anyhow::Result<()> {
        if passphrase.trim().chars().count() < FEWEST {
            anyhow::bail!("a passphrase has {FEWEST} letters or more");
        }
        let hash = Argon2::default()
            .hash_password(passphrase.trim().as_bytes())
            .map_err(|error| anyhow::anyhow!("the passphrase cannot be hashed: {error}"))?;
        self.write("passphrase", hash.to_string().as_bytes())?;
        Ok(())
    }

    /// The hash of the passphrase, where one was chosen.
    fn hash(&self) -> Option<String> {
        fs::read_to_string(self.0.join("passphrase")).ok()
    }

    /// The certificate and its key, made at the first asking for the addresses this machine has then.
    fn certificate(&self) -> anyhow::Result<(CertificateDer<'static>, PrivateKeyDer<'static>)> {
        let (certificate, key) = (self.0.join("certificate.pem"), self.0.join("key.pem"));
        if !certificate.exists() || !key.exists() {
            let mut names: Vec<String> = addresses().iter().map(IpAddr::to_string).collect();
            names.push("localhost".to_owned());
            let CertifiedKey { cert, signing_key } = generate_simple_self_signed(names)?;
            self.write("key.pem", signing_key.serialize_pem().as_bytes())?;
            self.write("certificate.pem", cert.pem().as_bytes())?;
        }
        Ok((
            CertificateDer::from_pem_file(certificate)?,
            PrivateKeyDer::from_pem_file(key)?,
        ))
    }

    /// Writes a file that its owner alone may read.
    fn write(&self, name: &str, bytes: &[u8]) -> io::Result<()> {
        fs::create_dir_all(&self.0)?;
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            fs::set_permissions(&self.0, fs::Permissions::from_mode(0o700))?;
        }
        // A temporary file is its owner's from the start.
        let mut file = tempfile::NamedTempFile::new_in(&self.0)?;
        file.write_all(bytes)?;
        file.as_file().sync_all()?;
        file.persist(self.0.join(name))
            .map_err(|refused| refused.error)?;
        Ok(())
    }
}

/// The addresses this machine has in its networks.
pub(crate) fn addresses() -> Vec<IpAddr> {
    let all = if_addrs::get_if_addrs().unwrap_or_default();
    all.iter()
        .filter(|interface| !interface.is_loopback() && !interface.is_link_local())
        .map(if_addrs::Interface::ip)
        .filter(IpAddr::is_ipv4)
        .collect()
}

/// The second door while it is open.
#[derive(Debug, Clone)]
pub(crate) struct Lan(Arc<Open>);

#[derive(Debug)]
struct Open {
    hash: String,
    fingerprint: String,
    port: u16,
    inside: Mutex<Inside>,
}

#[derive(Debug, Default)]
struct Inside {
    devices: Vec<Device>,
    wrong: Vec<(IpAddr, Instant)>,
}

/// A device that gave the passphrase.
#[derive(Debug, Clone)]
pub(crate) struct Device {
    pub(crate) id: Uuid,
    token: String,
    /// What it says it is.
    pub(crate) name: String,
    pub(crate) address: IpAddr,
    pub(crate) since: jiff::Timestamp,
    seen: Instant,
}

/// Why a passphrase let nobody in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Turned {
    /// It is wrong.
    Wrong,
    /// Too many were.
    TooMany,
}

impl Lan {
    /// Opens the second door with what is chosen, and how TLS is spoken at it.
    pub(crate) fn open(keys: &Keys, port: u16) -> anyhow::Result<(Self, ServerConfig)> {
        let hash = keys.hash().ok_or_else(|| {
            anyhow::anyhow!("choose a passphrase for the room's network first: wedge passphrase")
        })?;
        let (certificate, key) = keys.certificate()?;
        let fingerprint = fingerprint(&certificate);
        let provider = Arc::new(rustls::crypto::ring::default_provider());
        let config = ServerConfig::builder_with_provider(provider)
            .with_safe_default_protocol_versions()?
            .with_no_client_auth()
            .with_single_cert(vec![certificate], key)?;
        let open = Open {
            hash,
            fingerprint,
            port,
            inside: Mutex::default(),
        };
        Ok((Self(Arc::new(open)), config))
    }

    fn inside(&self) -> MutexGuard<'_, Inside> {
        self.0.inside.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// What a device compares before it trusts the certificate: SHA-256, in pairs.
    pub(crate) fn fingerprint(&self) -> &str {
        &self.0.fingerprint
    }

    /// Where it is open.
    pub(crate) fn urls(&self) -> Vec<String> {
        let port = self.0.port;
        let url = |address: &IpAddr| format!("https://{address}:{port}");
        addresses().iter().map(url).collect()
    }

    /// Lets a device in that gives the passphrase; it shows the token from then on. This takes a moment, as it should.
    pub(crate) fn enter(
        &self,
        passphrase: &str,
        name: &str,
        from: IpAddr,
    ) -> Result<String, Turned> {
        {
            let mut inside = self.inside();
            inside.wrong.retain(|(_, at)| at.elapsed() < COUNTS);
            let of_this = inside.wrong.iter().filter(|(who, _)| *who == from).count();
            if of_this >= TRIES || inside.wrong.len() >= TRIES_OF_ALL {
                return Err(Turned::TooMany);
            }
            // Counted before it is looked at: many at once are as many.
            inside.wrong.push((from, Instant::now()));
        }
        let right = PasswordHash::new(&self.0.hash).is_ok_and(|hash| {
            let given = passphrase.trim().as_bytes();
            Argon2::default().verify_password(given, &hash).is_ok()
        });
        if !right {
            return Err(Turned::Wrong);
        }
        let token = token();
        let mut inside = self.inside();
        inside.wrong.retain(|(who, _)| *who != from);
        inside.devices.push(Device {
            id: Uuid::now_v7(),
            token: token.clone(),
            name: name.chars().filter(|c| !c.is_control()).take(60).collect(),
            address: from,
            since: jiff::Timestamp::now(),
            seen: Instant::now(),
        });
        Ok(token)
    }

    /// Whether a token is of a device that is in.
    pub(crate) fn knows(&self, token: &str) -> bool {
        let mut inside = self.inside();
        inside.devices.retain(|device| device.seen.elapsed() < IDLE);
        let device = inside
            .devices
            .iter_mut()
            .find(|device| device.token == token);
        device.map(|device| device.seen = Instant::now()).is_some()
    }

    /// Who is in.
    pub(crate) fn devices(&self) -> Vec<Device> {
        self.inside().devices.clone()
    }

    /// Puts a device out; `false` when it is not in.
    pub(crate) fn put_out(&self, id: Uuid) -> bool {
        let mut inside = self.inside();
        let before = inside.devices.len();
        inside.devices.retain(|device| device.id != id);
        inside.devices.len() < before
    }
}

/// What nobody guesses.
pub(crate) fn token() -> String {
    format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple())
}

/// SHA-256 of a certificate, in pairs as browsers show it.
fn fingerprint(certificate: &CertificateDer) -> String {
    let digest = ring::digest::digest(&ring::digest::SHA256, certificate);
    let pairs: Vec<String> = digest.as_ref().iter().map(|b| format!("{b:02X}")).collect();
    pairs.join(":")
}
