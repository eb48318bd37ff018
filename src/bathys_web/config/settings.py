"""Settings, read from the environment that the start command sets."""

import os
from pathlib import Path

from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

BASE = Path(__file__).resolve().parent.parent
PROJECT = BASE.parent.parent


def _needed(name: str) -> str:
    value = os.environ.get(name)
    if not value:
        raise ImproperlyConfigured(f"{name} is not set; start Bathys with “make demo”.")
    return value


SECRET_KEY = _needed("BATHYS_SECRET_KEY")
DEBUG = False
DEMO = os.environ.get("BATHYS_DEMO") == "1"
"""Demo mode: the sign-in page offers the demo account."""

ALLOWED_HOSTS = os.environ.get("BATHYS_HOSTS", "localhost,127.0.0.1").split(",")
ROOT_URLCONF = "bathys_web.config.urls"
WSGI_APPLICATION = "bathys_web.config.wsgi.application"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django_htmx",
    "csp",
    "allauth",
    "allauth.account",
    "procrastinate.contrib.django",
    "bathys_web.accounts",
    "bathys_web.computing",
    "bathys_web.learn",
    "bathys_web.plans",
    "bathys_web.instruments",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "bathys_web.config.middleware.FairShare",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "bathys_web.config.middleware.KeepNothing",
    "bathys_web.config.middleware.OwnTime",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "allauth.account.middleware.AccountMiddleware",
]

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [BASE / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "bathys_web.accounts.context.account_context",
            ]
        },
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("BATHYS_DB_HOST", "127.0.0.1"),
        "PORT": _needed("BATHYS_DB_PORT"),
        "NAME": os.environ.get("BATHYS_DB_NAME", "bathys"),
        "USER": os.environ.get("BATHYS_DB_USER", "bathys"),
        "PASSWORD": _needed("BATHYS_DB_PASSWORD"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
# Sign-in limits count across all web processes, so the cache lives in the database.
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.db.DatabaseCache",
        "LOCATION": "bathys_cache",
    }
}

# A mail server where one is given; else, on a demo that nothing but this computer reaches, a page.
EMAIL_HOST = os.environ.get("BATHYS_SMTP_HOST", "")
EMAIL_PORT = int(os.environ.get("BATHYS_SMTP_PORT", "587"))
EMAIL_HOST_USER = os.environ.get("BATHYS_SMTP_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("BATHYS_SMTP_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("BATHYS_SMTP_TLS", "1") == "1"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = os.environ.get("BATHYS_MAIL_FROM", "bathys@localhost")
HAS_MAILBOX = DEMO and not EMAIL_HOST and set(ALLOWED_HOSTS) <= {"localhost", "127.0.0.1"}
SENDS_MAIL = bool(EMAIL_HOST) or HAS_MAILBOX
EMAIL_BACKEND = (
    "bathys_web.accounts.mailbox.MailboxBackend"
    if HAS_MAILBOX
    else "django.core.mail.backends.smtp.EmailBackend"
)

AUTHENTICATION_BACKENDS = [
    "django.contrib.auth.backends.ModelBackend",
    "allauth.account.auth_backends.AuthenticationBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ("username", "email"), "max_similarity": 0.7},
    },
]
ACCOUNT_ADAPTER = "bathys_web.accounts.adapter.AccountAdapter"
ACCOUNT_FORMS = {
    "signup": "bathys_web.accounts.forms.SignUpForm",
    "add_email": "bathys_web.accounts.forms.ChangeEmailForm",
    "login": "bathys_web.accounts.forms.SignInForm",
    "reset_password": "bathys_web.accounts.forms.ResetForm",
    "reset_password_from_key": "bathys_web.accounts.forms.NewPasswordForm",
    "change_password": "bathys_web.accounts.forms.OtherPasswordForm",
}
# Wrong passwords wait by the adapter’s own rule, which locks nobody out.
ACCOUNT_RATE_LIMITS = {
    "login_failed": False,
    "login": "120/m/ip",
    "signup": "30/h/ip",
    "demo": "60/h/ip",
}
ACCOUNT_LOGIN_METHODS = {"email"}
ACCOUNT_SIGNUP_FIELDS = ["email*", "password1*"]
ACCOUNT_CHANGE_EMAIL = True
ACCOUNT_EMAIL_VERIFICATION = "optional" if SENDS_MAIL else "none"
ACCOUNT_EMAIL_SUBJECT_PREFIX = "Bathys: "
ACCOUNT_LOGOUT_ON_GET = False
ACCOUNT_SESSION_REMEMBER = True
LOGIN_URL = "account_login"
LOGIN_REDIRECT_URL = "plans"
ACCOUNT_LOGOUT_REDIRECT_URL = "account_login"

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_I18N = False
USE_TZ = True

STATIC_URL = "/static/"
STATICFILES_DIRS = [BASE / "static"]
STATIC_ROOT = Path(os.environ.get("BATHYS_STATIC_ROOT", PROJECT / ".data" / "static"))
STATICFILES_FINDERS = ["django.contrib.staticfiles.finders.FileSystemFinder"]
"""Only what stands in ``static`` here: no other application's files are used."""
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "bathys_web.config.storage.ModuleStorage"},
}

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "data:"],  # Bootstrap's style sheet carries its small marks inline
        "object-src": [NONE],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}
CSRF_FAILURE_VIEW = "bathys_web.config.errors.stale_form"
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
# Plain HTTP is served on loopback only; behind HTTPS everything says so.
_IS_HTTPS = os.environ.get("BATHYS_HTTPS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = _IS_HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if _IS_HTTPS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = _IS_HTTPS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if _IS_HTTPS else None
DATA_UPLOAD_MAX_MEMORY_SIZE = 3_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 3_000_000

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {"django.request": {"handlers": ["console"], "level": "ERROR", "propagate": False}},
}

PUBLIC_URL = os.environ.get("BATHYS_PUBLIC_URL", "")
"""Where phones reach the application, for the codes on labels; none are made if it is not told."""

MQTT_HOST = os.environ.get("BATHYS_MQTT_HOST", "")
MQTT_PORT = int(os.environ.get("BATHYS_MQTT_PORT", "1883"))
MQTT_USER = os.environ.get("BATHYS_MQTT_USER", "")
MQTT_PASSWORD = os.environ.get("BATHYS_MQTT_PASSWORD", "")
MQTT_TLS = os.environ.get("BATHYS_MQTT_TLS") == "1"
"""A broker at which boards publish; none where no host is told."""

PUSH_URL = os.environ.get("BATHYS_PUSH_URL", "")
"""A push service that takes messages for phones; none where no address is told."""

PATIENCE = 0.3
"""How long a page's request waits for what takes long, before it is to ask again [s]."""
