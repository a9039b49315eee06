using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.People;

namespace Walkdown.Access;

/// <summary>An account as every request asks for it.</summary>
/// <param name="Name">As others read it.</param>
/// <param name="People">By job: who he is in it.</param>
public sealed record AccountLine(
    Guid Id,
    string Name,
    string UserName,
    ImmutableArray<Role> Roles,
    DateTimeOffset? EndedAt,
    ImmutableDictionary<Guid, Guid> People
);

/// <summary>Accounts and open sessions in memory, so that a request asks no disk; what changes is on the disk first.</summary>
public sealed class AccessBook(AccessStore store, TimeProvider time)
{
    /// <summary>The longest that a browser stays signed in without a sign of life: two days away from the installation with a full
    /// outbox are a working practice; a lost phone is ended by hand.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromDays(3);

    /// <summary>The longest that a browser stays signed in at all.</summary>
    public static readonly TimeSpan Whole = TimeSpan.FromDays(30);

    private readonly Lock _lock = new();
    private ImmutableDictionary<Guid, AccountLine> _accounts = [];
    private ImmutableDictionary<string, Open> _sessions = ImmutableDictionary.Create<string, Open>(StringComparer.Ordinal);
    private bool _isRead;

    /// <summary>A session with what stops everything that runs in it.</summary>
    private sealed record Open(Session Session, CancellationTokenSource Ended);

    /// <summary>Whether anybody was ever let in. Until then the one at this machine is alone and needs no sign-in.</summary>
    public bool Any => !store.IsMissing && !Accounts.IsEmpty;

    /// <summary>All accounts, those that are shut out too.</summary>
    public ImmutableDictionary<Guid, AccountLine> Accounts
    {
        get
        {
            Read();
            return _accounts;
        }
    }

    /// <summary>Reads the accounts anew, after a change on the disk.</summary>
    public void Reload()
    {
        lock (_lock)
        {
            using var db = store.Open();
            var people = db.Memberships.AsNoTracking().ToList().ToLookup(m => m.AccountId);
            _accounts = db
                .Users.AsNoTracking()
                .ToList()
                .ToImmutableDictionary(
                    a => a.Id,
                    a => new AccountLine(
                        a.Id,
                        a.Name,
                        a.UserName ?? "",
                        a.Roles,
                        a.EndedAt,
                        people[a.Id].ToImmutableDictionary(m => m.JobId, m => m.PersonId)
                    )
                );
            if (_isRead)
                return;
            var now = time.GetUtcNow();
            _sessions = db
                .Sessions.AsNoTracking()
                .ToList()
                .Where(s => s.EndsAt > now)
                .ToImmutableDictionary(s => s.KeyHash, s => new Open(s, new CancellationTokenSource()), StringComparer.Ordinal);
            _isRead = true;
        }
    }

    private void Read()
    {
        if (!_isRead && !store.IsMissing)
            Reload();
    }

    /// <summary>Who shows this key, in which session; null for nobody: unknown, ended, too old, or shut out.</summary>
    public (AccountLine Account, Session Session, CancellationToken Ended)? Who(string key)
    {
        Read();
        var now = time.GetUtcNow();
        return
            key.Length is > 20 and < 100
            && _sessions.TryGetValue(HashOf(key), out var open)
            && open.Session.EndsAt > now
            && open.Session.SeenAt + Idle > now
            && _accounts.TryGetValue(open.Session.AccountId, out var account)
            && account.EndedAt is null
            ? (account, Seen(open, now).Session, open.Ended.Token)
            : null;
    }

    /// <summary>Kept on the disk once a quarter of an hour at most.</summary>
    private Open Seen(Open open, DateTimeOffset now)
    {
        if (now - open.Session.SeenAt < TimeSpan.FromMinutes(15))
            return open;
        lock (_lock)
        {
            using var db = store.Open();
            db.Sessions.Where(s => s.Id == open.Session.Id).ExecuteUpdate(s => s.SetProperty(x => x.SeenAt, now));
            open.Session.SeenAt = now;
            return open;
        }
    }

    /// <summary>Begins a session. What is returned is shown by the browser and kept nowhere else.</summary>
    public (string Key, Session Session) Begin(Guid account, string device, string address)
    {
        Read();
        var key = Secret();
        var now = time.GetUtcNow();
        var session = new Session
        {
            Id = Guid.CreateVersion7(),
            KeyHash = HashOf(key),
            AccountId = account,
            BeganAt = now,
            SeenAt = now,
            EndsAt = now + Whole,
            Device = device.Length > 120 ? device[..120] : device,
            Address = address,
        };
        lock (_lock)
        {
            using var db = store.Open();
            db.Sessions.Where(s => s.EndsAt < now).ExecuteDelete();
            db.Add(session);
            db.SaveChanges();
            _sessions = _sessions.SetItem(session.KeyHash, new Open(session, new CancellationTokenSource()));
        }
        return (key, session);
    }

    /// <summary>Open sessions of somebody, or of all, newest first.</summary>
    public ImmutableArray<Session> Sessions(Guid? account)
    {
        Read();
        var now = time.GetUtcNow();
        return
        [
            .. _sessions
                .Values.Select(o => o.Session)
                .Where(s => (account is null || s.AccountId == account) && s.EndsAt > now && s.SeenAt + Idle > now)
                .OrderByDescending(s => s.SeenAt),
        ];
    }

    /// <summary>Ends sessions at once: what they listen to is cut, what they show next is nobody's.</summary>
    public int End(Func<Session, bool> which)
    {
        Read();
        lock (_lock)
        {
            var ended = _sessions.Where(s => which(s.Value.Session)).ToList();
            using var db = store.Open();
            foreach (var (hash, open) in ended)
            {
                db.Sessions.Where(s => s.Id == open.Session.Id).ExecuteDelete();
                _sessions = _sessions.Remove(hash);
                open.Ended.Cancel();
            }
            return ended.Count;
        }
    }

    /// <summary>256 bits that nobody guesses.</summary>
    public static string Secret() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    /// <summary>What is kept of a secret of 50 bits and more: its SHA-256.</summary>
    public static string HashOf(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
