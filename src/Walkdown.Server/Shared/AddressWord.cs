namespace Walkdown.Server.Shared;

/// <summary>A word of the address that is one of several, written as in a body ("edition2014"). The framework's own reading of such a word wants
/// it as it stands in the code, which no page and no stranger's script would write.</summary>
public static class AddressWord
{
    /// <param name="word">As it stands in the address; none where it says nothing.</param>
    /// <param name="unsaid">What is meant where nothing is said.</param>
    /// <returns>False where it is none of them: neither a number nor two at once are a word.</returns>
    public static bool TryRead<T>(string? word, T unsaid, out T meant)
        where T : struct, Enum
    {
        meant = unsaid;
        return string.IsNullOrEmpty(word)
            || (
                char.IsLetter(word[0])
                && word.All(char.IsLetterOrDigit)
                && Enum.TryParse(word, ignoreCase: true, out meant)
                && Enum.IsDefined(meant)
            );
    }
}
