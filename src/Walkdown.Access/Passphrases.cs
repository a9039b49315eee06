using Microsoft.AspNetCore.Identity;
using Walkdown.Core.Measures;

namespace Walkdown.Access;

/// <summary>Whether a passphrase holds: long enough, and nothing that is tried first. No rules of capitals and digits, no end of
/// life.</summary>
public static class Passphrases
{
    /// <summary>Fewest characters.</summary>
    public const int Least = 12;

    /// <summary>Most characters; more would be work for the hash and safety for nobody.</summary>
    public const int Most = 256;

    /// <summary>What is wrong with it; null where nothing is.</summary>
    /// <param name="about">What an attacker who knows the person tries first: names, the site.</param>
    public static Message? Wrong(string passphrase, params string[] about) =>
        passphrase.EnumerateRunes().Count() < Least ? new("problem.passphrase-short", [$"{Least}"])
        : passphrase.Length > Most ? new("problem.passphrase-long", [$"{Most}"])
        : IsGuessed(passphrase, about) ? new("problem.passphrase-guessed")
        : null;

    /// <summary>Found within ten thousand million guesses, by lists of words, names, keys beside each other, dates and repeats.</summary>
    private static bool IsGuessed(string passphrase, string[] about) =>
        // Longer ones are looked at by their beginning: the search takes the square of the length.
        Zxcvbn
            .Zxcvbn.MatchPassword(
                passphrase.Length > 64 ? passphrase[..64] : passphrase,
                [.. about.SelectMany(a => a.Split(' ', StringSplitOptions.RemoveEmptyEntries)), "walkdown", "ternhaven", "camera"]
            )
            .Score < 3;
}

/// <summary>The same for every way that a passphrase is set.</summary>
internal sealed class PassphraseRule : IPasswordValidator<Account>
{
    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password) =>
        Task.FromResult(
            Passphrases.Wrong(password ?? "", user.Name, user.UserName ?? "") is { } wrong
                ? IdentityResult.Failed(new IdentityError { Code = wrong.Code, Description = string.Join('\t', wrong.Args) })
                : IdentityResult.Success
        );
}
