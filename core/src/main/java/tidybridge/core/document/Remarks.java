package tidybridge.core.document;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Collects remarks, each once, and no more than somebody would read. Used by one thread. */
final class Remarks {

    private static final int MOST = 200;
    private static final int LONGEST_SUBJECT = 120;

    private final Set<DocumentedApi.Remark> remarks = new LinkedHashSet<>();
    private int more;

    void add(String subject, String words) {
        String shown = subject.length() <= LONGEST_SUBJECT ? subject : subject.substring(0, LONGEST_SUBJECT) + "...";
        var remark = new DocumentedApi.Remark(shown, words);
        if (remarks.size() < MOST) {
            remarks.add(remark);
        } else if (!remarks.contains(remark)) {
            more++;
        }
    }

    List<DocumentedApi.Remark> all() {
        List<DocumentedApi.Remark> all = new ArrayList<>(remarks);
        if (more > 0) {
            all.add(new DocumentedApi.Remark("document", "There are " + more + " remarks more of this kind."));
        }
        return all;
    }
}
